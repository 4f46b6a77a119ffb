#include "lab/judgement_cases.h"
#include "performer/fault_table.h"
#include "review/fault_rules.h"
#include <algorithm>
#include <cmath>
#include <random>

namespace jl
{
namespace
{

const char* const kLongForms[] = {"first-eight", "brush-walk", "eight-energies", "kick-section", "full-24"};

/// Draws that are the same on every machine.
class Dice
{
public:
    explicit Dice(std::uint32_t seed) : m_random(seed) {}
    std::size_t pick(std::size_t n) { return static_cast<std::size_t>(m_random() % n); }
    double between(double low, double high)
    {
        return low + (high - low) * static_cast<double>(m_random() % 10001) / 10000.0;
    }
    bool chance(double share) { return between(0, 1) < share; }
    template <class T, std::size_t N>
    const T& of(const T (&all)[N])
    {
        return all[pick(N)];
    }

private:
    std::mt19937 m_random;
};

const FaultKind* kindOf(const std::string& id)
{
    const auto found = std::find_if(faultKinds().begin(), faultKinds().end(),
                                    [&](const FaultKind& k) { return k.id == id; });
    return found == faultKinds().end() ? nullptr : &*found;
}

/// The half-width of what is allowed to a fault in the section's front stance, or by the rules.
double allowed(const ShippedData& data, const FaultRule& rule, const ValidationCase& c)
{
    if (rule.measure) {
        for (const auto& [stance, bands] : data.standards.school(c.school)->stances) {
            const auto band = bands.find(*rule.measure);
            if (band == bands.end() || !rule.holdsIn(stance)) continue;
            const bool inFeet =
                data.standards.school(c.school)->inFootLengths.contains({stance, *rule.measure});
            return band->second.halfWidth() * (inFeet ? data.bodies[c.body].footLength() : 1);
        }
    }
    return rule.tolerance;
}

/// The fault at so many times what is allowed; sizes count from the edge of a band, or from the faultless
/// value.
std::optional<FaultRequest> faultOf(const ShippedData& data, const std::string& id, const ValidationCase& c,
                                    double bands)
{
    const FaultKind* kind = kindOf(id);
    const FaultRule* rule = data.rules.find(id);
    if (!kind || !rule || (!rule->measure && !rule->whole)) return {};
    double size = kind->usual * bands / 2; // where what is allowed is not a band
    if (rule->measure && !rule->toleranceIsShare) {
        const double half = allowed(data, *rule, c);
        const bool fromOwn = kind->meaning == "from the faultless value";
        size = half * (fromOwn ? bands : bands - 1);
        if (id == "knee-past-toe" || id == "knee-caves-lead") size = 0.02 * bands + 0.02;
    }
    return FaultRequest{id, std::min(size, kind->largest)};
}

bool canBePerformed(const ShippedData& data, const ValidationCase& c)
{
    return static_cast<bool>(performanceOf(data, c));
}

/// Adds a fault if this form and body leave room for it.
bool addFault(const ShippedData& data, ValidationCase& c, const std::string& id, double bands)
{
    const auto fault = faultOf(data, id, c, bands);
    if (!fault) return false;
    c.faults.push_back(*fault);
    if (canBePerformed(data, c)) return true;
    c.faults.pop_back();
    return false;
}

void addSomeFaults(const ShippedData& data, Dice& dice, ValidationCase& c)
{
    const int wanted = 1 + static_cast<int>(dice.pick(3));
    std::vector<std::string> ids; // what lies beyond a student's limits is no fault of a performance
    for (const FaultRule& r : data.rules.all())
        if (!r.ofLimits) ids.push_back(r.id);
    for (int tries = 0; static_cast<int>(c.faults.size()) < wanted && tries < 60; ++tries)
        addFault(data, c, ids[dice.pick(ids.size())], dice.between(1.5, 3));
}

/// Two or three faults, each a likely cause of the next.
void addChain(const ShippedData& data, Dice& dice, JudgementCase& c)
{
    std::vector<const FaultRule*> ends;
    for (const FaultRule& r : data.rules.all())
        if (!r.causes.empty() && kindOf(r.id)) ends.push_back(&r);
    for (int tries = 0; tries < 40 && c.chain.size() < 2; ++tries) {
        c.chain.clear();
        c.clip.faults.clear();
        const FaultRule* rule = ends[dice.pick(ends.size())];
        c.chain.push_back(rule->id);
        for (int links = 1 + static_cast<int>(dice.pick(2)); links > 0 && !rule->causes.empty(); --links) {
            rule = data.rules.find(rule->causes[dice.pick(rule->causes.size())].fault);
            if (std::find(c.chain.begin(), c.chain.end(), rule->id) != c.chain.end()) break;
            c.chain.insert(c.chain.begin(), rule->id);
        }
        for (const std::string& id : c.chain)
            if (!addFault(data, c.clip, id, dice.between(1.5, 3))) {
                c.chain.clear();
                break;
            }
    }
}

/// Whether a posture that is done twice running moves the second time: some end where they begin, and then
/// it cannot be distinguished from a pause.
bool movesAgain(const Performance& performance, const std::string& posture)
{
    constexpr double clearly = 0.1, step = 0.1; // m, s
    const auto& phases = performance.phases();
    const auto first = std::find_if(phases.begin(), phases.end(),
                                    [&](const PerformedPhase& p) { return p.posture == posture; });
    if (first == phases.end()) return false;
    const auto again = std::find_if(first + 1, phases.end(),
                                    [&](const PerformedPhase& p) { return p.phase == first->phase; });
    if (again == phases.end()) return false;
    const BodyPoints start = performance.figureAt(again->begin).landmark;
    for (auto p = again; p != phases.end() && p->posture == posture; ++p)
        for (double t = p->begin; t < p->time; t += step) {
            const BodyPoints now = performance.figureAt(t).landmark;
            for (std::size_t k = 0; k < kLandmarkCount; ++k)
                if ((now[k] - start[k]).norm() > clearly) return true;
        }
    return false;
}

void spoilSequence(const ShippedData& data, Dice& dice, JudgementCase& c)
{
    c.clip.form = dice.of(kLongForms);
    const char* const faults[] = {"left-out", "repeated", "out-of-order", "wrong-side", "wrong-heading"};
    const auto& steps = data.standards.form(c.clip.form)->steps;
    for (int tries = 0; tries < 20 && c.clip.faults.empty(); ++tries) {
        const std::string id = dice.of(faults);
        const FormStep& step = steps[1 + dice.pick(steps.size() - 2)];
        const double size = id == "wrong-heading" ? (dice.chance(0.5) ? 45 : 90) : 1;
        c.clip.faults.push_back({id, size, step.posture});
        const auto performance = performanceOf(data, c.clip);
        if (!performance || (id == "repeated" && !movesAgain(*performance, step.posture)))
            c.clip.faults.clear();
    }
}

JudgementCase::Kind kindOf(int i)
{
    using enum JudgementCase::Kind;
    constexpr JudgementCase::Kind kinds[] = {Clean,  Faults, Faults,   Chain, Sequence,
                                             Faults, Clean,  Sequence, Chain, Cut};
    return kinds[i % std::size(kinds)];
}

} // namespace

std::vector<JudgementCase> judgementCases(const ShippedData& data, std::uint32_t seed, int count)
{
    std::vector<std::string> postures;
    for (const FormStandard& f : data.standards.forms)
        if (f.single && f.id != "stand") postures.push_back(f.id);
    constexpr std::size_t ordinaryBodies = 8; // the others have limits and do the form in their own way
    std::vector<JudgementCase> cases;
    for (int i = 0; i < count; ++i) {
        Dice dice(seed * 7919u + static_cast<std::uint32_t>(i));
        JudgementCase c;
        c.kind = kindOf(i);
        c.clip.form = dice.chance(0.5) ? "sparrow-tail" : postures[dice.pick(postures.size())];
        c.clip.school = data.standards.schools[dice.pick(data.standards.schools.size())].id;
        c.clip.lead = dice.chance(0.5) ? Side::Right : Side::Left;
        c.clip.body = dice.pick(std::min(ordinaryBodies, data.bodies.size()));
        c.clip.seed = static_cast<std::uint32_t>(dice.pick(100000)) + 1;
        c.clip.tempo = dice.between(0.6, 1.6);
        const char* const views[] = {"side", "side", "front", "corner"};
        c.clip.view = dice.of(views);
        if (c.clip.view == "side" && dice.chance(0.5)) c.clip.azimuthShift = 180;
        c.secondCamera = c.clip.view == "side" && dice.chance(0.4);
        if (c.kind == JudgementCase::Kind::Faults) addSomeFaults(data, dice, c.clip);
        if (c.kind == JudgementCase::Kind::Chain) addChain(data, dice, c);
        if (c.kind == JudgementCase::Kind::Sequence) spoilSequence(data, dice, c);
        if (c.kind == JudgementCase::Kind::Cut) c.clip.form = dice.of(kLongForms);
        const auto performance = performanceOf(data, c.clip);
        if (!performance) continue; // not every draw can be performed: another is drawn
        const double whole = performance->duration();
        if (c.kind == JudgementCase::Kind::Cut)
            c.shown = {dice.between(0, 0.4) * whole, dice.between(0.65, 1) * whole};
        for (std::size_t n = dice.pick(3); n > 0; --n)
            c.pauses.emplace_back(dice.between(0.1, 0.95) * whole, dice.between(0.5, 3));
        std::sort(c.pauses.begin(), c.pauses.end());
        cases.push_back(std::move(c));
    }
    return cases;
}

std::vector<double> filmedMoments(const JudgementCase& c, const Performance& performance)
{
    const auto [begin, end] = c.shown.value_or(std::pair(0.0, performance.duration()));
    std::vector<double> moments;
    double moment = begin, waiting = 0;
    auto next = std::lower_bound(c.pauses.begin(), c.pauses.end(), std::pair(begin, 0.0));
    const double step = 1 / c.clip.framesPerSecond;
    while (moment <= end) {
        moments.push_back(moment);
        if (waiting > 0) {
            waiting -= step;
            continue;
        }
        moment += step;
        if (next == c.pauses.end() || moment < next->first) continue;
        waiting = next->second;
        ++next;
    }
    return moments;
}

std::pair<double, double> clipTimesOf(const JudgementCase& c, double moment)
{
    const double begin = c.shown ? c.shown->first : 0, step = 1 / c.clip.framesPerSecond;
    double from = moment - begin, to = from;
    for (const auto& [at, length] : c.pauses) {
        if (at < begin) continue;
        if (at + step < moment - 1e-9) from += length;
        if (at < moment + 1e-9) to += length;
    }
    return {from, to};
}

} // namespace jl
