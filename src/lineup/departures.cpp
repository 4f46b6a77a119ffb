#include "lineup/departures.h"
#include "base/units.h"
#include <algorithm>
#include <numeric>

namespace jl
{
namespace
{

/// Options of departures from the order of the form.
/// Chosen on: judged cases of seeds 3001 to 3004 and 9001 (validate --judgement).
struct DepartureOptions {
    /// Over which the largest dissimilarity of a run is taken. x0.5 and x2: none.
    std::size_t sharpestSamples = 4;
    /// On either side, which show what is usual about a run. x0.5 and x2: none.
    std::size_t neighbours = 4;
    /// Of the model, missing at the beginning of a clip that starts inside a posture. x0.5 and x2: none.
    Seconds missingStart = 0.4;
    /// Times the usual dissimilarity about a run, from which it is doubtful. x0.5 and x2: none.
    Ratio dissimilar = 1.5;
    /// The same for the largest dissimilarity. x0.5 and x2: none.
    Ratio sharp = 2;
    /// Times the usual tempo, from which a run is doubtful. x0.5 and x2: none.
    Ratio hasty = 1.6;
    /// Times the usual tempo, below which a run is doubtful. x0.5 and x2: none.
    Ratio sluggish = 0.6;
    /// Times the usual dissimilarity of the whole clip. x0.5 and x2: none.
    Ratio mostOfClip = 2.25;
    /// Dissimilarity up to which a run fits, whatever is usual. x0.5 and x2: none.
    Cost fits = 0.012;
    /// Places on either side of a doubtful one that are searched again. x0.5 and x2: none.
    int placesAbout = 3;
    /// Evidence of the pictures alone from which a departure is believed. x0.5 and x2: none.
    Ratio evidenceByPictures = 8;
    /// Evidence with the clip's pace from which it is believed. x0.5 and x2: none.
    Ratio evidenceByPace = 15;
};
constexpr DepartureOptions kOptions;

/// The samples in and next to the postures that depart from the form.
std::vector<bool> aboutDepartures(const PosturePath& path)
{
    std::vector<bool> about(path.clip().size(), false);
    const auto& runs = path.runs();
    for (std::size_t i = 0; i < runs.size(); ++i) {
        if (!departsAt(path, i)) continue;
        const WarpedRun &from = runs[i > 0 ? i - 1 : 0], &to = runs[std::min(i + 1, runs.size() - 1)];
        std::fill(about.begin() + from.steps.front().first, about.begin() + to.steps.back().first + 1, true);
    }
    return about;
}

/// How much more is left unexplained without the departures than with them, as a share of the latter, for
/// each unit that is left of a sample with them.
double evidence(const std::vector<double>& with, const std::vector<double>& without,
                const std::vector<bool>& about)
{
    double sumWith = 0, sumWithout = 0, n = 0;
    for (std::size_t i = 0; i < about.size(); ++i) {
        if (!about[i]) continue;
        sumWith += with[i];
        sumWithout += without[i];
        ++n;
    }
    return n == 0 || sumWith == 0 ? 0 : (sumWithout / sumWith - 1) / (sumWith / n);
}

/// The most that is unlike in any moments of a run.
double sharpest(const std::vector<double>& dissimilarity)
{
    double most = 0;
    for (std::size_t k = kOptions.sharpestSamples; k <= dissimilarity.size(); ++k) {
        const auto end = dissimilarity.begin() + static_cast<std::ptrdiff_t>(k);
        most = std::max(most,
                        std::accumulate(end - kOptions.sharpestSamples, end, 0.0) / kOptions.sharpestSamples);
    }
    return most;
}

/// Of a run and its neighbours.
double usualAround(const std::vector<double>& values, std::size_t run)
{
    const std::size_t first = run < kOptions.neighbours ? 0 : run - kOptions.neighbours;
    const std::size_t last = std::min(values.size(), run + kOptions.neighbours + 1);
    return middleOf({values.begin() + static_cast<std::ptrdiff_t>(first),
                     values.begin() + static_cast<std::ptrdiff_t>(last)});
}

} // namespace

bool skipsBeginning(const PosturePath& path)
{
    if (path.runs().empty() || path.place(0) < 2) return false;
    return path.way(0).rearranged && path.way(0).after == 0;
}

bool departsAt(const PosturePath& path, std::size_t run)
{
    const PostureWays::Way& way = path.way(run);
    return way.otherSide || way.turned != 0 ||
           (run > 0 ? path.place(run) != path.place(run - 1) + 1 : skipsBeginning(path));
}

bool departs(const PosturePath& path)
{
    for (std::size_t i = 0; i < path.runs().size(); ++i)
        if (departsAt(path, i)) return true;
    return false;
}

bool beginsAside(const PosturePath& path)
{
    if (path.runs().empty()) return false;
    const WarpedRun& first = path.runs().front();
    const double begin = path.ways().modelTimeAt(path.ways().segment(first.segment).begin);
    return (path.way(0).otherSide || path.way(0).turned != 0) &&
           path.ways().modelTimeAt(first.steps.front().second) > begin + kOptions.missingStart;
}

std::vector<bool> doubtfulPlaces(const PosturePath& path)
{
    std::vector<bool> doubtful(path.ways().places(), false);
    const auto doubt = [&](int from, int to) {
        const int last = std::min(to + kOptions.placesAbout, static_cast<int>(doubtful.size()) - 1);
        for (int k = std::max(0, from - kOptions.placesAbout); k <= last; ++k)
            doubtful[static_cast<std::size_t>(k)] = true;
    };
    if (path.runs().empty()) return doubtful;
    const double tempo = path.usualTempo();
    std::vector<double> mean, sharps;
    for (std::size_t i = 0; i < path.runs().size(); ++i) {
        mean.push_back(path.meanDissimilarity(i));
        sharps.push_back(sharpest(path.dissimilarity(i)));
    }
    const double much = kOptions.mostOfClip * middleOf(mean);
    for (std::size_t i = 0; i < path.runs().size(); ++i) {
        const int place = path.place(i), before = i > 0 ? path.place(i - 1) : place - 1;
        if (place != before + 1) doubt(std::min(place, before), std::max(place, before));
        if (i == 0 && place == 2) doubt(place, place); // its beginning may have been left out
        const double faster = path.tempo(i) / tempo;
        const bool isOdd =
            path.runs()[i].steps.size() > 2 && (faster > kOptions.hasty || faster < kOptions.sluggish);
        if (isOdd ||
            mean[i] > std::max(kOptions.fits, std::min(kOptions.dissimilar * usualAround(mean, i), much)) ||
            sharps[i] > std::max(kOptions.fits, kOptions.sharp * usualAround(sharps, i)))
            doubt(place, place);
    }
    return doubtful;
}

bool isBelieved(const PosturePath& departing, const PosturePath& inOrder, const PosturePath& paced,
                double share)
{
    const std::vector<bool> about = aboutDepartures(departing);
    return evidence(departing.dissimilarityAlong(), inOrder.dissimilarityAlong(), about) >
               share * kOptions.evidenceByPictures &&
           evidence(departing.costAlong(), paced.costAlong(), about) > share * kOptions.evidenceByPace;
}

} // namespace jl
