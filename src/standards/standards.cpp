#include "standards/standards.h"
#include "base/json_file.h"
#include "standards/schema_check.h"
#include <algorithm>

namespace jl
{
namespace
{

using Json = nlohmann::json;

/// Thrown while one file is read; carries the place inside it.
struct Misfit {
    std::string what;
};

Band bandFrom(const Json& j)
{
    if (j.is_array() && j.size() == 2) return {j[0].get<double>(), j[1].get<double>(), 0};
    if (!j.is_object()) throw Misfit{"a band is [low, high] or an object with low and high"};
    return {j.at("low").get<double>(), j.at("high").get<double>(), j.value("tolerance", 0.0)};
}

StanceKind stanceFrom(const std::string& name)
{
    const auto stance = stanceFromName(name);
    if (!stance) throw Misfit{"there is no stance \"" + name + "\""};
    return *stance;
}

Measure measureFrom(const std::string& key)
{
    const auto measure = measureFromKey(key);
    if (!measure) throw Misfit{"there is no measure \"" + key + "\""};
    return *measure;
}

Bands bandsFrom(const Json& j)
{
    Bands bands;
    for (const auto& [key, value] : j.items()) {
        const Measure measure = measureFrom(key);
        bands[measure] = bandFrom(value);
        if (bands[measure].low > bands[measure].high) throw Misfit{"the band of " + key + " is upside down"};
    }
    return bands;
}

/// A school's bands of one stance, over those it has of it already.
void addStance(SchoolStandard& school, StanceKind stance, const Json& j)
{
    for (const auto& [measure, band] : bandsFrom(j))
        school.stances[stance][measure] = band;
    for (const auto& [key, value] : j.items()) {
        const std::pair place(stance, measureFrom(key));
        if (value.is_object() && value.value("unit", "") == "foot")
            school.inFootLengths.insert(place);
        else
            school.inFootLengths.erase(place);
    }
}

PostureStandard postureFrom(const Json& j)
{
    PostureStandard posture{j.at("id"), j.at("name"), {}, {}, {}};
    if (const auto after = j.find("after"); after != j.end())
        posture.after = {after->at("posture"), after->value("side", "R") == "L",
                         after->value("heading", 0.0)};
    if (const auto purpose = j.find("purpose"); purpose != j.end())
        posture.purpose = {purpose->at("for"), purpose->at("force"),
                           purpose->at("direction").get<std::array<double, 3>>(), purpose->at("feel")};
    for (const Json& p : j.at("phases")) {
        posture.phases.push_back({p.at("id"), p.at("name"), stanceFrom(p.at("stance")),
                                  p.value("breath", "in"), bandsFrom(p.value("bands", Json::object())),
                                  p.at("moves").dump()});
    }
    if (posture.phases.empty()) throw Misfit{"a posture needs at least one phase"};
    return posture;
}

/// In place of the variant of that name the school has already, from one it extends.
void addVariant(SchoolStandard& school, AcceptedVariant variant)
{
    std::erase_if(school.variants, [&](const AcceptedVariant& v) {
        return v.phase == variant.phase && v.name == variant.name;
    });
    school.variants.push_back(std::move(variant));
}

SchoolStandard schoolFrom(const Json& j, const std::vector<SchoolStandard>& earlier)
{
    SchoolStandard school;
    if (const std::string base = j.value("extends", ""); !base.empty()) {
        const auto found = std::find_if(earlier.begin(), earlier.end(),
                                        [&](const SchoolStandard& s) { return s.id == base; });
        if (found == earlier.end()) throw Misfit{"it extends \"" + base + "\", which is not there"};
        school = *found;
    }
    school.id = j.at("id");
    school.name = j.at("name");
    school.line.ids.insert(school.line.ids.begin(), school.id);
    if (const auto style = j.find("style"); style != j.end()) {
        school.style.rearFootTurn = style->value("rear_foot_turn", school.style.rearFootTurn);
        school.style.toeLift = style->value("toe_lift", school.style.toeLift);
        school.style.height = style->value("height", school.style.height);
        school.style.step = style->value("step", school.style.step);
        school.style.standing = style->value("standing", school.style.standing);
        if (const auto hands = style->find("hands"); hands != style->end())
            for (const auto& [phase, height] : hands->items())
                school.style.hands[phase] = height;
    }
    for (const auto& [stance, bands] : j.at("stances").items())
        addStance(school, stanceFrom(stance), bands);
    if (const auto variants = j.find("variants"); variants != j.end())
        for (const Json& v : *variants)
            addVariant(school, {v.at("phase"), v.at("name"), bandsFrom(v.at("further"))});
    return school;
}

/// Runs a reader over a file's JSON and turns everything that can go wrong into an error with the file's
/// name.
template <class Reader>
Result<Done> readFile(const std::filesystem::path& file, Reader reader)
{
    const auto json = readJson(file);
    if (!json) return json.error();
    const std::string remedy = "Mend the file, or take the shipped one again.";
    try {
        reader(*json);
    } catch (const Misfit& m) {
        return Error{Error::Kind::BadInput, m.what, file.string(), remedy};
    } catch (const Json::exception& e) {
        return Error{Error::Kind::BadInput,
                     std::string("a value is missing or of the wrong sort: ") + e.what(), file.string(),
                     remedy};
    }
    return Done{};
}

template <class T>
const T* byId(const std::vector<T>& all, const std::string& id)
{
    const auto found = std::find_if(all.begin(), all.end(), [&](const T& t) { return t.id == id; });
    return found == all.end() ? nullptr : &*found;
}

/// Does something with each JSON file of a folder, in the order of their names. A folder that is not there
/// has none.
template <class Do>
Result<Done> eachJsonIn(const std::filesystem::path& folder, const Do& each)
{
    std::error_code wrong;
    if (!std::filesystem::exists(folder, wrong) && !wrong) return Done{};
    std::vector<std::filesystem::path> files;
    for (const auto& entry : std::filesystem::directory_iterator(folder, wrong))
        if (entry.path().extension() == ".json") files.push_back(entry.path());
    if (wrong)
        return Error{Error::Kind::BadInput, "the folder cannot be read: " + wrong.message(), folder.string(),
                     "Check that you may read it."};
    std::sort(files.begin(), files.end());
    for (const auto& file : files)
        if (auto done = each(file); !done) return done;
    return Done{};
}

/// The posture with everything that leads up to it, begun standing.
FormStandard singleForm(const Standards& s, const PostureStandard& posture)
{
    FormStandard form{posture.id, posture.name, true, {}};
    FormStep step{posture.id, 0, false};
    for (const PostureStandard* p = &posture;;) {
        form.steps.insert(form.steps.begin(), step);
        const auto& before = p->after;
        if (before.posture.empty() || form.steps.size() > s.postures.size()) break;
        p = s.posture(before.posture);
        if (!p)
            throw Misfit{"the posture " + step.posture + " follows \"" + before.posture +
                         "\", which is not there"};
        step.posture = before.posture;
        step.heading += step.otherSide ? -before.heading : before.heading;
        step.otherSide = step.otherSide != before.otherSide;
    }
    const double first = form.steps.front().heading;
    for (FormStep& each : form.steps)
        each.heading -= first;
    if (form.steps.front().posture != "stand") form.steps.insert(form.steps.begin(), {"stand", 0, false});
    return form;
}

/// Takes the place of what has the same id, or joins the others.
template <class T>
void put(std::vector<T>& all, T item)
{
    const auto found = std::find_if(all.begin(), all.end(), [&](const T& t) { return t.id == item.id; });
    if (found == all.end())
        all.push_back(std::move(item));
    else
        *found = std::move(item);
}

FormStandard formFrom(const Json& j)
{
    FormStandard form{j.at("id"), j.at("name"), false, {}};
    for (const Json& step : j.at("postures"))
        form.steps.push_back(
            {step.at("posture"), step.value("heading", 0.0), step.value("side", "R") == "L"});
    return form;
}

LevelStandard levelFrom(const Json& j, const Standards& known)
{
    LevelStandard level{j.at("id"), j.at("name"), j.at("measures"), {}};
    if (const auto sections = j.find("sections"); sections != j.end())
        level.sections = sections->get<std::map<std::string, std::string>>();
    if (!j.contains("with")) return level;
    const std::string with = j.at("with");
    const LevelStandard* below = known.level(with);
    if (!below)
        throw Misfit{"the level " + level.id + " builds on \"" + with + "\", which is not there before it"};
    level.measures.insert(level.measures.begin(), below->measures.begin(), below->measures.end());
    return level;
}

void addForms(Standards& s, const Json& index)
{
    for (const Json& f : index.value("forms", Json::array()))
        put(s.forms, formFrom(f));
    for (const Json& l : index.value("levels", Json::array()))
        put(s.levels, levelFrom(l, s));
}

/// What an instructor's folder holds, over what is shipped.
Result<Done> addOwn(Standards& s, const std::filesystem::path& shipped, const std::filesystem::path& own)
{
    const auto each = [&](const std::filesystem::path& file, const char* kind,
                          const auto& add) -> Result<Done> {
        const auto json = readOwn(file, shipped, kind);
        if (!json) return json.error();
        return readFile(file, add);
    };
    if (std::filesystem::exists(own / "forms.json")) {
        auto done = each(own / "forms.json", "forms", [&](const Json& j) { addForms(s, j); });
        if (!done) return done;
    }
    auto postures = eachJsonIn(own / "postures", [&](const auto& file) {
        return each(file, "posture", [&](const Json& j) { put(s.postures, postureFrom(j)); });
    });
    if (!postures) return postures;
    return eachJsonIn(own / "schools", [&](const auto& file) {
        return each(file, "school", [&](const Json& j) { put(s.schools, schoolFrom(j, s.schools)); });
    });
}

} // namespace

Result<Standards> Standards::load(const std::filesystem::path& folder, const std::filesystem::path& own)
{
    Standards s;
    std::vector<std::string> schools;
    auto done = readFile(folder / "forms.json", [&](const Json& j) {
        addForms(s, j);
        schools = j.at("schools").get<std::vector<std::string>>();
    });
    if (!done) return done.error();
    for (const std::string& id : schools) {
        done = readFile(folder / "schools" / (id + ".json"),
                        [&](const Json& j) { put(s.schools, schoolFrom(j, s.schools)); });
        if (!done) return done.error();
    }
    done = eachJsonIn(folder / "postures", [&](const auto& file) {
        return readFile(file, [&](const Json& j) { put(s.postures, postureFrom(j)); });
    });
    if (!done) return done.error();
    done = readFile(folder / "cautions.json", [&](const Json& j) {
        for (const Json& c : j)
            s.cautions.push_back({c.at("text"), c.at("postures").get<std::vector<std::string>>()});
    });
    if (!done) return done.error();
    if (!own.empty()) {
        done = addOwn(s, folder, own);
        if (!done) return done.error();
    }
    const bool ownForms = !own.empty() && std::filesystem::exists(own / "forms.json");
    done = readFile(ownForms ? own / "forms.json" : folder / "forms.json", [&](const Json&) {
        for (const FormStandard& form : s.forms)
            for (const FormStep& step : form.steps)
                if (!s.posture(step.posture))
                    throw Misfit{"the form " + form.id + " asks for the posture \"" + step.posture +
                                 "\", which is not there"};
        for (const PostureStandard& p : s.postures)
            s.forms.push_back(singleForm(s, p));
    });
    if (!done) return done.error();
    return s;
}

bool SchoolLine::includes(const std::vector<std::string>& anyOf) const
{
    return std::any_of(ids.begin(), ids.end(), [&](const std::string& id) {
        return std::find(anyOf.begin(), anyOf.end(), id) != anyOf.end();
    });
}

const PostureStandard* Standards::posture(const std::string& id) const
{
    return byId(postures, id);
}

const FormStandard* Standards::form(const std::string& id) const
{
    return byId(forms, id);
}

const SchoolStandard* Standards::school(const std::string& id) const
{
    return byId(schools, id);
}

bool LevelStandard::teaches(std::string_view key) const
{
    return std::any_of(measures.begin(), measures.end(), [&](const std::string& m) {
        return key == m || (key.starts_with(m) && key[m.size()] == '.');
    });
}

const LevelStandard* Standards::level(const std::string& id) const
{
    return byId(levels, id);
}

const PhaseStandard& Standards::phase(const std::string& postureId, const std::string& phaseId) const
{
    const auto& phases = posture(postureId)->phases;
    return *std::find_if(phases.begin(), phases.end(),
                         [&](const PhaseStandard& p) { return p.id == phaseId; });
}

std::vector<const AcceptedVariant*> SchoolStandard::variantsOf(const std::string& posture,
                                                               const std::string& phase) const
{
    std::vector<const AcceptedVariant*> found;
    for (const AcceptedVariant& v : variants)
        if (v.phase == posture + "/" + phase) found.push_back(&v);
    return found;
}

Bands Standards::bandsFor(const PhaseStandard& phase, const SchoolStandard& school, double footLength) const
{
    Bands bands;
    if (const auto stance = school.stances.find(phase.stance); stance != school.stances.end())
        bands = stance->second;
    for (auto& [measure, band] : bands) {
        if (!school.inFootLengths.contains({phase.stance, measure})) continue;
        band.low *= footLength;
        band.high *= footLength;
        band.tolerance *= footLength;
    }
    for (const auto& [measure, band] : phase.bands)
        bands[measure] = band;
    return bands;
}

Error unknownId(const std::string& kind, const std::string& id, const std::vector<std::string>& known)
{
    std::string list;
    for (const std::string& k : known)
        list += (list.empty() ? "" : ", ") + k;
    return {Error::Kind::WrongUse, "there is no " + kind + " \"" + id + "\"", "", "Known: " + list + "."};
}

} // namespace jl
