#include "pipeline/reference_cut.h"
#include "base/json_file.h"
#include "body/motion.h"
#include <algorithm>
#include <cmath>
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
    FormFit fit = fitOf(form, *found, model);
    return Fitted{std::move(fit), std::move(*found), model};
}

ReferenceCut cutOf(const Fitted& best)
{
    ReferenceCut cut;
    cut.fit = best.fit;
    cut.postures = cutsOf(best.lineUp, best.model);
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

/// To thousandths, for people to read.
double rounded(double value)
{
    return std::round(1000 * value) / 1000;
}

} // namespace

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
    Json out{{"form", cut.fit.form}, {"unlikeness", cut.fit.dissimilarity}, {"shown", cut.fit.shown}};
    out["postures"] = Json::array();
    for (const PostureCut& p : cut.postures) {
        Json posture{{"place", p.place + 1},
                     {"id", p.id},
                     {"side", p.lead == Side::Left ? "L" : "R"},
                     {"status", p.order == PostureRun::Order::InPlace ? "matched" : "out-of-order"},
                     {"start", rounded(p.begin)},
                     {"end", rounded(p.end)},
                     {"confidence", rounded(p.confidence)},
                     {"phases", Json::array()}};
        for (const PostureCut::Phase& phase : p.phases)
            posture["phases"].push_back(
                {{"id", phase.id}, {"time", rounded(phase.time)}, {"confidence", phase.confidence}});
        out["postures"].push_back(std::move(posture));
    }
    out["left_out"] = cut.leftOut;
    out["others"] = Json::array();
    for (const FormFit& fit : cut.others)
        out["others"].push_back(
            {{"form", fit.form}, {"unlikeness", fit.dissimilarity}, {"shown", fit.shown}});
    return out.dump(1) + "\n";
}

namespace
{

PostureCut postureFrom(const nlohmann::json& j)
{
    PostureCut cut;
    const int place = j.at("place").get<int>();
    if (place < 1) throw std::runtime_error("a place is counted from 1");
    cut.place = static_cast<std::size_t>(place) - 1;
    cut.id = j.at("id").get<std::string>();
    const auto side = j.at("side").get<std::string>();
    if (side != "L" && side != "R") throw std::runtime_error("a side is neither L nor R");
    cut.lead = side == "L" ? Side::Left : Side::Right;
    cut.begin = j.at("start").get<double>();
    cut.end = j.at("end").get<double>();
    for (const auto& phase : j.at("phases"))
        cut.phases.push_back({phase.at("id").get<std::string>(), phase.at("time").get<double>()});
    return cut;
}

} // namespace

Result<ReferenceCut> readCut(const std::filesystem::path& file)
{
    const auto text = readText(file);
    if (!text) return text.error();
    return cutFromJson(*text, file.string());
}

Result<ReferenceCut> cutFromJson(const std::string& text, const std::string& where)
{
    try {
        const auto json = nlohmann::json::parse(text);
        ReferenceCut cut;
        cut.source = where;
        cut.fit.form = json.at("form").get<std::string>();
        for (const auto& posture : json.at("postures"))
            cut.postures.push_back(postureFrom(posture));
        return cut;
    } catch (const std::exception& e) {
        return Error{Error::Kind::BadInput, std::string("this is no cut of a reference: ") + e.what(), where,
                     "Start from what the command \"cut\" writes and change only its times."};
    }
}

} // namespace jl
