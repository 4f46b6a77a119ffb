#include "pipeline/reference_cut.h"
#include "body/motion.h"
#include <algorithm>
#include <nlohmann/json.hpp>

namespace jl
{
namespace
{

struct Fitted {
    FormFit fit;
    LineUp lineUp;
    ModelPerformance model;
};

Result<Fitted> fitted(const ShippedData& data, const Track& smooth, const std::string& school,
                      const std::string& form)
{
    const auto models = data.models(form, school);
    if (!models) return models.error();
    auto found = lineUp(smooth, *models, {});
    if (!found) return found.error();
    const ModelPerformance& model = (*models)[found->model];
    const std::size_t places = model.places().size();
    std::size_t shown = 0;
    for (std::size_t place = 0; place < places; ++place)
        shown += found->runOf(place) != nullptr;
    FormFit fit{form, found->meanCost, static_cast<double>(shown) / static_cast<double>(places)};
    return Fitted{std::move(fit), std::move(*found), model};
}

ReferenceCut::Posture postureOf(const Fitted& best, const PostureRun& run)
{
    const ModelPerformance::Place place = best.model.places()[run.place];
    const FoundPhase& first = best.lineUp.phases[place.firstPhase];
    ReferenceCut::Posture posture{first.posture, first.lead, run.begin, run.end, run.order, 0, {}};
    for (std::size_t i = place.firstPhase; i <= place.lastPhase; ++i) {
        const FoundPhase& p = best.lineUp.phases[i];
        if (p.matched) posture.phases.push_back({p.phase, p.time, keyMomentConfidence(p.cost)});
    }
    for (const ReferenceCut::Phase& p : posture.phases)
        posture.confidence += p.confidence / static_cast<double>(posture.phases.size());
    return posture;
}

ReferenceCut cutOf(const Fitted& best)
{
    ReferenceCut cut;
    cut.fit = best.fit;
    for (const PostureRun& run : best.lineUp.runs)
        if (run.counts) cut.postures.push_back(postureOf(best, run));
    const auto places = best.model.places();
    for (std::size_t place = 0; place < places.size(); ++place)
        if (best.lineUp.shows(place) && !best.lineUp.runOf(place))
            cut.leftOut.push_back(best.model.phases[places[place].firstPhase].posture);
    return cut;
}

/// Every form that can be followed through the clip, the likeliest first.
Result<std::vector<Fitted>> everyFit(const ShippedData& data, const Track& smooth, const std::string& school,
                                     const Progress& progress)
{
    std::vector<Fitted> fits;
    const auto& forms = data.standards.forms;
    for (std::size_t i = 0; i < forms.size(); ++i) {
        if (progress && !progress(static_cast<double>(i) / static_cast<double>(forms.size())))
            return Error{Error::Kind::Cancelled, "the comparison was stopped", smooth.clip, {}};
        if (auto one = fitted(data, smooth, school, forms[i].id)) fits.push_back(std::move(*one));
    }
    std::stable_sort(fits.begin(), fits.end(),
                     [](const Fitted& a, const Fitted& b) { return a.fit.score() < b.fit.score(); });
    return fits;
}

} // namespace

double keyMomentConfidence(double unlikeness)
{
    constexpr double ordinary = 0.04;
    return unlikeness < ordinary ? 0.93 : 0.8; // 2374 and 114 of them
}

Result<ReferenceCut> proposeCut(const ShippedData& data, const Track& extracted, const std::string& school,
                                const std::optional<std::string>& form, const Progress& progress)
{
    const Track smooth = smoothed(extracted);
    if (form) {
        const auto one = fitted(data, smooth, school, *form);
        if (!one) return one.error();
        return cutOf(*one);
    }
    // What no form can be performed in is not the clip's fault.
    if (!data.standards.school(school)) return data.models(data.standards.forms.front().id, school).error();
    const auto fits = everyFit(data, smooth, school, progress);
    if (!fits) return fits.error();
    if (fits->empty())
        return Error{Error::Kind::NothingFound, "the movements in this clip follow none of the forms",
                     extracted.clip, "Film one form from its opening to its close, or name the form."};
    ReferenceCut cut = cutOf(fits->front());
    for (std::size_t i = 1; i < fits->size(); ++i)
        cut.others.push_back((*fits)[i].fit);
    return cut;
}

std::string cutJson(const ReferenceCut& cut)
{
    using Json = nlohmann::ordered_json;
    Json out{{"form", cut.fit.form}, {"unlikeness", cut.fit.unlikeness}, {"shown", cut.fit.shown}};
    out["postures"] = Json::array();
    for (const ReferenceCut::Posture& p : cut.postures) {
        Json posture{{"id", p.id},
                     {"side", p.lead == Side::Left ? "L" : "R"},
                     {"status", p.order == PostureRun::Order::InPlace ? "matched" : "out-of-order"},
                     {"start", p.begin},
                     {"end", p.end},
                     {"confidence", p.confidence},
                     {"phases", Json::array()}};
        for (const ReferenceCut::Phase& phase : p.phases)
            posture["phases"].push_back(
                {{"id", phase.id}, {"time", phase.time}, {"confidence", phase.confidence}});
        out["postures"].push_back(std::move(posture));
    }
    out["left_out"] = cut.leftOut;
    out["others"] = Json::array();
    for (const FormFit& fit : cut.others)
        out["others"].push_back({{"form", fit.form}, {"unlikeness", fit.unlikeness}, {"shown", fit.shown}});
    return out.dump(1) + "\n";
}

} // namespace jl
