#include "lab/accuracy_page.h"
#include "base/json_file.h"
#include "lab/accuracy_report.h"
#include "lab/judgement_summary.h"
#include "lab/network_report.h"
#include <algorithm>
#include <cstdio>
#include <sstream>

namespace jl
{
namespace
{

using Rows = std::vector<AccuracyRow>;

struct Tables {
    Rows full, heldOut;
    std::vector<NetworkAccuracy> networks;
    std::vector<JudgementSummary> judgement;
};

Result<Tables> tablesIn(const std::filesystem::path& folder)
{
    Tables t;
    for (const auto& [name, rows] : {std::pair("full.csv", &t.full), {"held-out.csv", &t.heldOut}}) {
        const auto file = folder / name;
        const auto text = readText(file);
        if (!text) return text.error();
        auto read = accuracyFromCsv(*text, file.string());
        if (!read) return read.error();
        *rows = std::move(*read);
    }
    const auto networks = readText(folder / "networks.csv");
    if (!networks) return networks.error();
    auto choices = networksFromCsv(*networks, (folder / "networks.csv").string());
    if (!choices) return choices.error();
    t.networks = std::move(*choices);
    const auto judged = readText(folder / "judgement.csv");
    if (!judged) return judged.error();
    auto sets = judgementFromCsv(*judged, (folder / "judgement.csv").string());
    if (!sets) return sets.error();
    t.judgement = std::move(*sets);
    return t;
}

template <class... Args>
std::string format(const char* pattern, Args... args)
{
    char text[240];
    std::snprintf(text, sizeof text, pattern, args...);
    return text;
}

std::string percent(const Tally& t)
{
    return t.all ? format("%.1f %% (%d of %d)", 100 * t.share(), t.good, t.all) : "-";
}

/// Without the count of the good: of some sets only the rounded share was kept.
std::string rounded(const Tally& t)
{
    return t.all ? format("%.0f %% of %d", 100 * t.share(), t.all) : "-";
}

std::string rare(const Tally& t)
{
    return format("%d in %d", t.good, t.all);
}

const AccuracyRow* find(const Rows& rows, std::string_view view, std::string_view key)
{
    const auto at =
        std::ranges::find_if(rows, [&](const AccuracyRow& r) { return r.view == view && r.key == key; });
    return at == rows.end() || at->n == 0 ? nullptr : &*at;
}

/// Lengths are shown in cm.
std::string size(const AccuracyRow& r, double value)
{
    if (r.unit == "m") return format("%.1f cm", 100 * value);
    return format(r.unit == "s" ? "%.2f %s" : "%.1f %s", value, r.unit.c_str());
}

/// One line of a table: a view and a measure, as fitted and as held out.
void addLine(std::ostream& out, const Tables& t, std::string_view view, std::string_view key)
{
    out << "| " << view << " | `" << key << "` |";
    if (const AccuracyRow* r = find(t.full, view, key)) {
        out << ' ' << r->n << " | " << size(*r, r->p90) << " | " << size(*r, r->meanU) << " | "
            << format("%.0f %%", 100 * r->coverage) << " |";
        if (r->certain)
            out << ' ' << size(*r, r->certainP90) << " of " << r->certain << " |";
        else
            out << " - |";
    } else {
        out << " 0 | - | - | - | - |";
    }
    if (const AccuracyRow* r = find(t.heldOut, view, key))
        out << ' ' << r->n << " | " << size(*r, r->p90) << " | " << format("%.0f %%", 100 * r->coverage)
            << " |\n";
    else
        out << " 0 | - | - |\n";
}

struct Line {
    std::string_view view, key;
};

template <std::size_t N>
std::string table(const Tables& t, const Line (&lines)[N])
{
    std::ostringstream out;
    out << "| view | measure | values | 9 of 10 within | stated u | within 2u | certain: 9 of 10 | "
           "held out | 9 of 10 | within 2u |\n"
           "| --- | --- | --- | --- | --- | --- | --- | --- | --- | --- |\n";
    for (const Line& l : lines)
        addLine(out, t, l.view, l.key);
    return out.str();
}

constexpr Line kOneView[]{
    {"side-near", "knee.lead.flexion"},
    {"side-near", "knee.lead.past_toe"},
    {"side-near", "stance.length"},
    {"side-near", "trunk.lean.forward"},
    {"side-near", "weight.lead"},
    {"side-far", "knee.lead.flexion"},
    {"side-far", "knee.lead.past_toe"},
    {"side-far", "stance.length"},
    {"side-far", "trunk.lean.forward"},
    {"side-far", "weight.lead"},
    {"front", "knee.lead.track"},
    {"front", "stance.width"},
    {"front", "trunk.lean.side"},
    {"front", "weight.lead"},
    {"behind", "stance.width"},
    {"behind", "trunk.lean.side"},
    {"side-near", "phase.duration"},
    {"side-near", "pelvis.bob"},
    {"side-near", "weight.transfer.evenness"},
    {"side-near", "hand_foot.lag"},
};

constexpr Line kTwoViews[]{
    {"two-views-front", "knee.lead.flexion"},  {"two-views-front", "knee.rear.flexion"},
    {"two-views-front", "knee.lead.past_toe"}, {"two-views-front", "knee.lead.track"},
    {"two-views-front", "stance.length"},      {"two-views-front", "stance.width"},
    {"two-views-front", "trunk.lean.forward"}, {"two-views-front", "weight.lead"},
    {"two-views-front", "foot.rear.angle"},    {"two-views-front", "pelvis.square"},
    {"two-views-corner", "knee.lead.flexion"}, {"two-views-corner", "stance.width"},
    {"two-views-behind", "knee.lead.flexion"}, {"two-views-behind", "stance.width"},
    {"two-views-front", "phase.duration"},     {"two-views-front", "hand_foot.lag"},
};

/// How honest the uncertainties of a set are, in two lines of a list.
std::string honesty(const Rows& rows)
{
    const CoverageSummary c = coverageOf(rows);
    double values = 0, within = 0, certain = 0, beyond = 0;
    for (const AccuracyRow& r : rows) {
        values += r.n;
        within += r.coverage * r.n;
        certain += r.certain;
        beyond += r.certainBeyondThree * r.certain;
    }
    return format("%.0f values, %.1f %% within 2u; of %.0f called certain %.2f %% beyond 3u;\n", values,
                  100 * within / values, certain, 100 * beyond / certain) +
           format("  %d of %d rows of 50 values and more within 93 to 97 %%, %d clearly outside (binomial, 5 "
                  "%%).",
                  c.within, c.rows, c.tooFew + c.tooMany);
}

/// The sets on which rules and tables were chosen; all others are held out.
bool isHeldOut(const JudgementSummary& s)
{
    constexpr std::string_view chosenOn[]{"2026", "2611", "4242", "5151", "7373", "9501",
                                          "9503", "9504", "9601", "9602", "20260"};
    return std::ranges::find(chosenOn, s.seed) == std::end(chosenOn);
}

std::string judgementTable(const std::vector<JudgementSummary>& sets)
{
    struct Column {
        std::string title;
        JudgementSummary sum;
    };
    std::vector<Column> columns;
    for (const auto& [set, name] : {std::pair("drawn", "drawn points"),
                                    {"alone", "rendered, one view"},
                                    {"together", "rendered, two views"}})
        for (bool heldOut : {false, true}) {
            Column c{name + std::string(heldOut ? ", held out" : ""), {}};
            for (const JudgementSummary& s : sets)
                if (s.set == set && isHeldOut(s) == heldOut) c.sum.add(s);
            if (c.sum.precision.all) columns.push_back(std::move(c));
        }
    std::ostringstream out;
    out << "| |";
    for (const Column& c : columns)
        out << ' ' << c.title << " |";
    out << "\n| --- |";
    for (std::size_t i = 0; i < columns.size(); ++i)
        out << " --- |";
    out << '\n';
    const auto row = [&](const char* what, const auto& cell) {
        out << "| " << what << " |";
        for (const Column& c : columns)
            out << ' ' << cell(c.sum) << " |";
        out << '\n';
    };
    using S = JudgementSummary;
    row("key moments, median error up to", [](const S& s) { return format("%.3f s", s.medianError); });
    row("key moments within 0.15 s", [](const S& s) { return rounded(s.keyMoments); });
    row("phases shown that were found", [](const S& s) {
        return s.phases.all ? format("%.1f %% of %d", 100 * s.phases.share(), s.phases.all) : "-";
    });
    row("departures from the order found", [](const S& s) { return percent(s.departures); });
    row("departures claimed in orderly cases", [](const S& s) { return rare(s.falseDepartures); });
    row("visible faults found (recall)", [](const S& s) { return percent(s.recall); });
    row("claimed faults that are real (precision)", [](const S& s) { return percent(s.precision); });
    row("the same, safety", [](const S& s) { return percent(s.safety); });
    row("root of a chain named first", [](const S& s) { return percent(s.root); });
    row("false faults, of postures in clean cases", [](const S& s) { return rare(s.cleanFaults); });
    row("false safety faults, of clean cases", [](const S& s) { return rare(s.cleanSafety); });
    return out.str();
}

std::string networksTable(const std::vector<NetworkAccuracy>& all)
{
    std::ostringstream out;
    out << "| networks | errors against the usual choice | within 2u |\n| --- | --- | --- |\n";
    for (const NetworkAccuracy& a : all) {
        double n = 0, within = 0;
        for (const AccuracyRow& r : a.rows) {
            n += r.n;
            within += r.coverage * r.n;
        }
        out << "| " << a.networks
            << format(" | %.2f times | %.1f %% |\n", errorRatio(a.rows, all.back().rows).p90,
                      100 * within / n);
    }
    return out.str();
}

} // namespace

Result<std::string> accuracyPage(const std::filesystem::path& folder)
{
    const auto tables = tablesIn(folder);
    if (!tables) return tables.error();
    const Tables& t = *tables;
    std::ostringstream page;
    page << R"(# Accuracy

Written by `jolly-lantern-cli validate --page docs/accuracy` from the tables in this folder; change those, not this
page. How the sets are made and what was fitted on which stands in [method](../method.md#13-validation-and-fitting).

Performances of the built-in performer are rendered, coded as video and read like anybody's clip. The truth is exact.
**These are rendered bodies, not people**: expect clothes, floors and lenses to do somewhat worse.

*9 of 10 within* is what you may count on. *Stated u* is the mean standard uncertainty; the screen shows 2u. *Within
2u* should be 95 %. *Certain* values are those not marked "uncertain"; a dash means none is. *Near* and *far* say
whether the front leg is on the camera's side. The left columns come from 460 clips (seed 20260) on which the table of
uncertainties was fitted; *held out* are 80 clips (seed 55055) on which nothing was fitted.

- Fitted set: )";
    page << honesty(t.full);
    page << "\n- Held out: ";
    page << honesty(t.heldOut);
    page << R"(

## One view

)";
    page << table(t, kOneView);
    page << "\nAll rows: [full.csv](full.csv), [held-out.csv](held-out.csv), the quick set ";
    page << "[quick.csv](quick.csv).\n";
    page << R"(
## Two views at once

The first camera stands at the side; the second in front, at the corner or behind. In front it adds most.

)";
    page << table(t, kTwoViews);
    page << R"(
## Judgement

Drawn points are exact points with errors drawn as the networks make them, 200 performances a seed with faults,
departures, pauses and cuts (`validate --judgement --seed S`). Rendered clips (`--rendered`) show one fault at most.
A fault is visible where it exceeds what its rule only watches by half of the tolerance, in a view that gives its
measure. A dash: not part of the set, or not kept. The rendered clips were judged with rules for forward and sitting
stances only, and without the difference between bodies in u. By seed: [judgement.csv](judgement.csv).

)";
    page << judgementTable(t.judgement);
    page << R"(
Most false claims from rendered clips are lifted shoulders, a shift that goes back, a heel that peels off and early
hands. Faults within twice the uncertainty of their measure are often missed.

## Networks

24 clips of the quick set (`validate --networks`, [networks.csv](networks.csv)). The program uses the last row.

)";
    page << networksTable(t.networks);
    page << R"(
## Following bodies

The detector and the full network follow the body in every frame of one clip of each posture, ten bodies at 6 frames a
second (`validate --follow`, [followed.csv](followed.csv)).
)";
    return page.str();
}

} // namespace jl
