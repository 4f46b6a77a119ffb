#include "pipeline/form_fit.h"
#include "base/parallel.h"
#include "body/motion.h"
#include <algorithm>
#include <atomic>

namespace jl
{
namespace
{

constexpr double kLooked = 60; ///< s of a clip that are compared with every form

Track beginningOf(const Track& track)
{
    Track part = track;
    const auto later = [&](const BodyFrame& f) { return f.time > track.frames.front().time + kLooked; };
    part.frames.erase(std::find_if(part.frames.begin(), part.frames.end(), later), part.frames.end());
    return part;
}

std::optional<FormFit> roughFit(const ShippedData& data, const Track& part, const std::string& school,
                                const std::string& form)
{
    const auto models = data.models(form, school);
    if (!models) return {};
    const auto found = roughLineUp(part, *models, {});
    if (!found || found->runs.empty()) return {};
    return fitOf(form, *found, (*models)[found->model]);
}

} // namespace

FormFit fitOf(const std::string& form, const LineUp& lineUp, const ModelPerformance& model)
{
    const std::size_t places = model.places().size();
    std::size_t shown = 0;
    for (std::size_t place = 0; place < places; ++place)
        shown += lineUp.runOf(place) != nullptr;
    return {form, lineUp.meanCost, static_cast<double>(shown) / static_cast<double>(places)};
}

std::optional<std::string> betterForm(const ShippedData& data, const Track& smooth, const std::string& school,
                                      const std::string& form, const Progress& progress)
{
    constexpr double muchBetter = 0.6, ofMuchMore = 0.5; // in pictures; in pictures and in how much is shown
    const Track part = beginningOf(smooth);
    const auto& forms = data.standards.forms;
    std::vector<std::optional<FormFit>> fits(forms.size());
    std::atomic<std::size_t> done = 0;
    std::atomic<bool> stopped = false;
    inParallel(forms.size(), [&](std::size_t i) {
        if (progress && !progress(static_cast<double>(done) / static_cast<double>(forms.size())))
            stopped = true;
        if (!stopped) fits[i] = roughFit(data, part, school, forms[i].id);
        ++done;
    });
    if (stopped) return {};
    FormFit best{form, 1, 0}, own = best;
    for (const auto& fit : fits) {
        if (!fit) continue;
        if (fit->score() < best.score()) best = *fit;
        if (fit->form == form) own = *fit;
    }
    if (best.dissimilarity > muchBetter * own.dissimilarity && best.score() > ofMuchMore * own.score())
        return {};
    return best.form;
}

std::string formDoubt(const ShippedData& data, const ClipReading& clip, const std::string& school,
                      const std::string& form, const Progress& progress)
{
    constexpr double ordinary = 0.025; // one right clip in ten fits worse
    if (clip.lineUp.meanCost < ordinary) return {};
    const auto better = betterForm(data, clip.track, school, form, progress);
    if (!better) return {};
    return "This looks more like \"" + data.standards.form(*better)->name + "\" than \"" +
           data.standards.form(form)->name + "\". If it is, choose that form.";
}

Error withLikelierForm(Error error, const ShippedData& data, const Track& extracted,
                       const std::string& school, const std::string& form)
{
    if (error.kind != Error::Kind::NothingFound || extracted.frames.empty()) return error;
    if (const auto better = betterForm(data, smoothed(extracted), school, form))
        error.remedy = "It looks more like \"" + data.standards.form(*better)->name +
                       "\": choose that form if it is. " + error.remedy;
    return error;
}

} // namespace jl
