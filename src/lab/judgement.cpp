#include "lab/judgement.h"
#include "lab/network_noise.h"
#include "lab/validation.h"
#include "moment/view_support.h"
#include "performer/truth.h"
#include "performer/whole_truth.h"
#include "review/rule_coverage.h"
#include <algorithm>
#include <cmath>
#include <set>

namespace jl
{
namespace
{

/// Half-widths beyond where a rule begins to call it a fault: 1.5 times what is allowed.
constexpr double kClearly = 0.5;
constexpr double kBeyond = 2; ///< standard uncertainties; what lies within them may be chance

Track filmed(const LabData& data, const JudgementCase& c, const Performance& performance,
             const std::string& view, std::uint32_t noise)
{
    ValidationCase camera = c.clip;
    camera.view = view;
    if (view != c.clip.view) camera.azimuthShift = 0;
    const ClipRequest request = clipRequestOf(camera);
    const std::vector<double> moments = filmedMoments(c, performance);
    return withNoise(conventionalTrack(performance, request, data.tables.offsets, moments),
                     bodyPixels(performance, request), c.clip.seed + noise, *data.errors);
}

Result<FinishedReview> reviewOf(const ShippedData& data, const ValidationCase& c, ReviewRequest request)
{
    request.form = c.form;
    request.school = c.school;
    request.level = "refining";
    return makeReview(data, std::move(request), FormComparison::Later);
}

Result<FinishedReview> judgedCase(const LabData& data, const JudgementCase& c, const Performance& performance)
{
    ReviewRequest request;
    request.student.profile.height = performance.body().height;
    request.student.track = filmed(data, c, performance, c.clip.view, 0);
    if (c.secondCamera) request.second = ReviewClip{filmed(data, c, performance, "front", 1), {}, {}, {}, {}};
    return reviewOf(data, c.clip, std::move(request));
}

/// The places of the form in the order in which they were performed.
std::vector<std::size_t> performedPlaces(const FormStandard& form, const std::vector<FaultRequest>& faults)
{
    std::vector<std::size_t> places(form.steps.size());
    for (std::size_t i = 0; i < places.size(); ++i)
        places[i] = i;
    for (const FaultRequest& f : faults) {
        const auto step = std::find_if(form.steps.begin() + 1, form.steps.end(),
                                       [&](const FormStep& s) { return s.posture == f.posture; });
        if (f.posture.empty() || step == form.steps.end()) continue;
        const auto at = places.begin() + (step - form.steps.begin());
        if (f.id == "left-out") places.erase(at);
        if (f.id == "repeated") places.insert(at, std::size_t(*at));
        if (f.id == "out-of-order") std::iter_swap(at, at + 1);
    }
    return places;
}

/// One phase as it was performed, with its place in the review.
struct Shown {
    const PerformedPhase* performed;
    std::size_t posture, phase;
};

std::vector<Shown> shownPhases(const ShippedData& data, const JudgementCase& c,
                               const Performance& performance, const Review& review)
{
    const auto places = performedPlaces(*data.standards.form(c.clip.form), c.clip.faults);
    std::vector<Shown> out;
    std::size_t step = 0, phase = 0;
    for (const PerformedPhase& p : performance.phases()) {
        if (step >= places.size()) break;
        const auto& phases = review.postures[places[step]].phases;
        out.push_back({&p, places[step], phase});
        if (++phase < phases.size()) continue;
        phase = 0;
        ++step;
    }
    return out;
}

class Judge
{
public:
    Judge(const ShippedData& data, const JudgementCase& c, const Performance& performance,
          const FinishedReview& judged, JudgementReport& report)
        : m_data(data), m_case(c), m_performance(performance), m_judged(judged), m_report(report),
          m_shown(shownPhases(data, c, performance, judged.review)), m_events(floorEvents(performance))
    {
    }

    void run()
    {
        timeKeyMoments();
        const bool ordered = judgeSequence();
        if (ordered) judgeFindings();
        judgeChain();
    }

private:
    const Review& review() const { return m_judged.review; }
    const ReviewedPhase& reviewed(const Shown& s) const
    {
        return review().postures[s.posture].phases[s.phase];
    }
    bool isClean() const
    {
        return m_case.kind == JudgementCase::Kind::Clean || m_case.kind == JudgementCase::Kind::Cut;
    }

    bool wasFilmed(double moment) const
    {
        constexpr double slack = 0.4; // s, so that the arrival can be seen to be one
        if (!m_case.shown) return true;
        return moment > m_case.shown->first + slack && moment < m_case.shown->second - slack;
    }

    /// From when to when the clip shows a key moment: where somebody stops right beside it, in a pose that
    /// that cannot be distinguished from it, any moment of standing so is as good.
    std::pair<double, double> heldTimes(double moment) const
    {
        constexpr double beside = 1, same = 0.01; // s, m
        double first = moment, last = moment;
        const BodyPoints pose = m_performance.figureAt(moment).landmark;
        for (const auto& [at, length] : m_case.pauses) {
            if (std::abs(at - moment) > beside) continue;
            const BodyPoints there = m_performance.figureAt(at).landmark;
            bool alike = true;
            for (std::size_t k = 0; k < kLandmarkCount; ++k)
                alike = alike && (there[k] - pose[k]).norm() < same;
            if (!alike) continue;
            first = std::min(first, at);
            last = std::max(last, at);
        }
        return {clipTimesOf(m_case, first).first, clipTimesOf(m_case, last).second};
    }

    void timeKeyMoments()
    {
        for (const Shown& s : m_shown) {
            // Standing at the beginning has no arrival: any moment of it is as good.
            if (s.performed == &m_performance.phases().front() || !wasFilmed(s.performed->time)) continue;
            const FoundPhase& found = reviewed(s).student;
            const auto [from, to] = heldTimes(s.performed->time);
            const double error = std::max({0.0, from - found.time, found.time - to});
            const bool repeated = std::count_if(m_shown.begin(), m_shown.end(), [&](const Shown& o) {
                                      return o.posture == s.posture && o.phase == s.phase;
                                  }) > 1;
            if (repeated) continue; // either of the two is right
            m_report.phasesFound.add(found.matched);
            if (found.matched) m_report.keyMomentErrors.push_back(error);
        }
    }

    /// Whether the postures and sides that were read are the ones performed. Of left, right, left somebody
    /// may have done the second on the other side, or left out the first and done the last twice: it is the
    /// same. Standing before it all is the beginning of whatever comes first.
    bool readsAsPerformed() const
    {
        std::vector<std::pair<std::string, Side>> performed, read;
        for (const Shown& s : m_shown)
            if (s.phase == 0 && s.performed != &m_performance.phases().front())
                performed.emplace_back(s.performed->posture, s.performed->lead);
        const ModelPerformance& model = m_judged.student.model;
        const auto places = model.places();
        for (const PostureRun& run : m_judged.student.lineUp.runs) {
            if (run.place == 0) continue;
            const ModelPerformance::Phase& p = model.phases[places[run.place].firstPhase];
            if (run.turned != 0) return false;
            read.emplace_back(p.posture, run.otherSide ? other(p.lead) : p.lead);
        }
        return read == performed;
    }

    /// Whether the order was kept, so that all else can be judged.
    bool judgeSequence()
    {
        std::set<std::pair<std::string, std::string>> claims;
        for (const Finding& f : review().findings)
            if (!f.measure && !f.whole) claims.emplace(f.fault, review().postures[f.posture].id);
        if (m_case.kind != JudgementCase::Kind::Sequence || m_case.clip.faults.empty()) {
            ++m_report.orderKept;
            m_report.falseSequence += static_cast<int>(claims.size());
            return true;
        }
        const FaultRequest& fault = m_case.clip.faults.front();
        const bool found =
            claims.contains({fault.id, fault.posture}) || (fault.id != "wrong-heading" && readsAsPerformed());
        m_report.sequence.add(found);
        m_report.recallOf[fault.id].add(found);
        return false;
    }

    double trueExcess(const Shown& s, const JudgedValue& v) const
    {
        const Figure figure = m_performance.movingFigureAt(s.performed->time);
        return v.band->excess(trueMeasure(v.value.measure, figure, s.performed->lead, s.performed->heading));
    }

    /// None where a pause has changed what is true of the phase.
    std::optional<double> trueExcess(const Shown& s, const JudgedWhole& w) const
    {
        auto value =
            wholeTruth(m_performance, *s.performed, m_events)[static_cast<std::size_t>(w.value.measure)];
        for (const auto& [at, length] : m_case.pauses) {
            if (at < s.performed->begin || at > s.performed->time) continue;
            if (w.value.measure != PhaseMeasure::FlowPauses && w.value.measure != PhaseMeasure::Duration)
                return {};
            if (value) *value += w.value.measure == PhaseMeasure::FlowPauses ? (length > 0.3) : length;
        }
        return value ? std::optional(w.band->excess(*value)) : std::nullopt;
    }

    void judgeFindings()
    {
        m_report.cleanCases += isClean();
        if (isClean()) m_report.cleanPostures += static_cast<int>(review().postures.size());
        for (const Finding& f : review().findings) {
            if (f.severity == Severity::Watch || (!f.measure && !f.whole)) continue;
            const auto s = std::find_if(m_shown.begin(), m_shown.end(), [&](const Shown& o) {
                return o.posture == f.posture && o.phase == f.phase;
            });
            if (s == m_shown.end()) continue;
            const ReviewedPhase& phase = reviewed(*s);
            const auto excess =
                f.measure ? std::optional(trueExcess(*s, phase.values[static_cast<std::size_t>(*f.measure)]))
                          : trueExcess(*s, phase.whole[static_cast<std::size_t>(*f.whole)]);
            if (!excess) continue;
            const FaultRule& rule = *m_data.rules.find(f.fault);
            const bool right = rule.concerns(rule.oriented(*excess, *f.band, s->performed->lead));
            m_report.precision.add(right);
            m_report.precisionOf[f.fault].add(right);
            m_report.precisionIn[std::string(stanceName(phase.student.stance))].add(right);
            m_report.precisionIn[std::string(familyOf(rule))].add(right);
            if (f.severity == Severity::Safety) m_report.safetyPrecision.add(right);
            if (isClean() && !right) {
                ++m_report.cleanFaults;
                m_report.cleanSafety += f.severity == Severity::Safety;
            }
        }
        for (const FaultRequest& f : m_case.clip.faults) {
            if (!visible(f.id)) continue;
            const bool found = claimed(f.id);
            m_report.recall.add(found);
            if (visible(f.id, kBeyond)) m_report.recallBeyondUncertainty.add(found);
            m_report.recallOf[f.id].add(found);
            m_report.recallIn[std::string(familyOf(*m_data.rules.find(f.id)))].add(found);
            recallByStance(f.id);
        }
    }

    /// Once for every kind of stance in which the fault is visible.
    void recallByStance(const std::string& fault)
    {
        std::map<StanceKind, bool> claimedIn;
        for (const Shown& s : m_shown)
            if (visibleIn(s, fault)) claimedIn[reviewed(s).student.stance] |= false;
        for (const Finding& f : review().findings) {
            const auto in = claimedIn.find(review().postures[f.posture].phases[f.phase].student.stance);
            if (f.fault == fault && f.severity != Severity::Watch && in != claimedIn.end()) in->second = true;
        }
        for (const auto& [stance, found] : claimedIn)
            m_report.recallIn[std::string(stanceName(stance))].add(found);
    }

    bool claimed(const std::string& fault) const
    {
        return std::any_of(review().findings.begin(), review().findings.end(), [&](const Finding& f) {
            return f.fault == fault && f.severity != Severity::Watch;
        });
    }

    /// Whether a fault is truly there, clearly, in a phase in which this view can give its measure; and out
    /// of the band by so many times what the value's uncertainty is.
    bool visible(const std::string& id, double uncertainties = 0) const
    {
        return std::any_of(m_shown.begin(), m_shown.end(),
                           [&](const Shown& s) { return visibleIn(s, id, uncertainties); });
    }

    bool visibleIn(const Shown& s, const std::string& id, double uncertainties = 0) const
    {
        const FaultRule& rule = *m_data.rules.find(id);
        const ReviewedPhase& phase = reviewed(s);
        if (!rule.holdsIn(phase.student.stance) || phase.values.empty()) return false;
        const auto clear = [&](double excess, const Band& band, double u) {
            return rule.concerns(rule.oriented(excess, band, s.performed->lead)) &&
                   std::abs(excess) >=
                       std::max(rule.marginOf(band) + kClearly * band.halfWidth(), uncertainties * u);
        };
        if (rule.measure) {
            const JudgedValue& v = phase.values[static_cast<std::size_t>(*rule.measure)];
            return v.band && v.status != Status::Unseen && clear(trueExcess(s, v), *v.band, v.value.u);
        }
        if (!rule.whole || phase.whole.empty()) return false;
        const JudgedWhole& w = phase.whole[static_cast<std::size_t>(*rule.whole)];
        if (!w.band || w.status == Status::Unseen) return false;
        const auto excess = trueExcess(s, w);
        return excess && clear(*excess, *w.band, w.value.u);
    }

    bool mayCause(const std::string& cause, const std::string& effect) const
    {
        const auto& causes = m_data.rules.find(effect)->causes;
        return std::any_of(causes.begin(), causes.end(), [&](const auto& c) { return c.fault == cause; });
    }

    /// Whether a cause truly shows where its consequence does, or before: in the same posture or the one
    /// before it.
    bool comesFirst(const std::string& cause, const std::string& consequence) const
    {
        for (const Shown& c : m_shown) {
            if (!visibleIn(c, cause)) continue;
            for (const Shown& s : m_shown)
                if ((s.posture == c.posture || s.posture == c.posture + 1) && visibleIn(s, consequence))
                    return true;
        }
        return false;
    }

    /// Whether what is taught about the chain's end begins with its root, or with what truly brought that
    /// about: who steps short stays high. Something else may be taught before it: safety comes first.
    void judgeChain()
    {
        const auto& chain = m_case.chain;
        if (chain.size() < 2 || !std::all_of(chain.begin(), chain.end(), [&](const std::string& id) {
                return visible(id) && claimed(id);
            }))
            return; // a cause that nobody can see cannot be named
        for (std::size_t i = 1; i < chain.size(); ++i) {
            if (mayCause(chain[i], chain[i - 1])) return;    // each may cause the other: neither is the root
            if (!comesFirst(chain[i - 1], chain[i])) return; // what comes after it is no cause
        }
        const std::string& root = chain.front();
        const auto isRoot = [&](const std::string& id) {
            return id == root || (mayCause(id, root) && comesFirst(id, root));
        };
        const auto& taught = review().teach;
        m_report.rootCauseFirst.add(std::any_of(taught.begin(), taught.end(), [&](const Correction& c) {
            const auto names = [&](const std::string& id) {
                return std::find(c.chain.begin(), c.chain.end(), id) != c.chain.end();
            };
            return isRoot(c.chain.front()) && names(root) && names(chain.back());
        }));
    }

    const ShippedData& m_data;
    const JudgementCase& m_case;
    const Performance& m_performance;
    const FinishedReview& m_judged;
    JudgementReport& m_report;
    std::vector<Shown> m_shown;
    std::vector<FloorEvent> m_events;
};

} // namespace

JudgementReport judgeCases(const LabData& shipped, const std::vector<JudgementCase>& cases,
                           const Progress& progress)
{
    const LabData data = shipped.withoutBias();
    JudgementReport report;
    for (std::size_t i = 0; i < cases.size(); ++i) {
        if (progress && !progress(static_cast<double>(i) / static_cast<double>(cases.size()))) break;
        ++report.cases;
        const auto performance = performanceOf(data, cases[i].clip);
        if (!performance) {
            ++report.failed;
            continue;
        }
        const auto judged = judgedCase(data, cases[i], *performance);
        if (judged)
            Judge(data, cases[i], *performance, *judged, report).run();
        else
            ++report.failed;
    }
    if (progress) progress(1);
    std::sort(report.keyMomentErrors.begin(), report.keyMomentErrors.end());
    return report;
}

RenderedJudgement judgeRendered(const ShippedData& data, const std::vector<ValidationCase>& cases,
                                const NetworkChoice& networks, const std::filesystem::path& cache,
                                const Progress& progress)
{
    RenderedJudgement out;
    // False where the case cannot be judged at all.
    const auto judge = [&](const ValidationCase& clip, const Track& first, const Track* second,
                           JudgementReport& report) {
        JudgementCase c;
        c.kind = clip.faults.empty() ? JudgementCase::Kind::Clean : JudgementCase::Kind::Faults;
        c.clip = clip;
        const auto performance = performanceOf(data, clip);
        if (!performance) {
            ++report.failed;
            return false;
        }
        ReviewRequest request;
        request.side = clip.lead;
        if (clip.heightKnown) request.student.profile.height = performance->body().height;
        request.student.track = first;
        if (second) request.second = ReviewClip{*second, {}, {}, {}, {}};
        const auto judged = reviewOf(data, clip, std::move(request));
        if (judged && second && !judged->together) return true; // it says no more than each by itself
        if (judged) {
            ++report.cases;
            Judge(data, c, *performance, *judged, report).run();
        } else {
            ++report.failed;
        }
        return bool(judged);
    };
    std::optional<Track> before;
    for (std::size_t i = 0; i < cases.size(); ++i) {
        if (progress && !progress(static_cast<double>(i) / static_cast<double>(cases.size()))) break;
        auto outcome = followCase(data, cases[i], networks, cache);
        if (!outcome) ++out.alone.failed;
        if (!outcome || !judge(cases[i], outcome->track, nullptr, out.alone)) {
            before.reset();
            continue;
        }
        if (before && filmedAtOnce(cases[i - 1], cases[i]))
            judge(cases[i - 1], *before, &outcome->track, out.together);
        before = std::move(outcome->track);
    }
    if (progress) progress(1);
    for (JudgementReport* report : {&out.alone, &out.together})
        std::sort(report->keyMomentErrors.begin(), report->keyMomentErrors.end());
    return out;
}

} // namespace jl
