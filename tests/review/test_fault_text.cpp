#include "review/fault_text.h"
#include "support/shipped.h"
#include <QtTest>
#include <set>

using namespace jl;

namespace
{

FaultWords shippedWords(const char* fault, const FaultContext& context)
{
    return shipped().rules.find(fault)->wordsIn(context);
}

FaultContext at(const char* posture, StanceKind stance, const char* school, bool above = true)
{
    return {posture, stance, shipped().standards.school(school)->line, "forming", above};
}

} // namespace

class TestFaultText : public QObject
{
    Q_OBJECT

private slots:
    void theMostSpecificWins()
    {
        const FaultWords own{"name", "title", "cue", "reason", "drill"};
        FaultText bow, push, low, both;
        bow.stances = StanceSet{StanceKind::Bow};
        bow.words = {"bow", "bow", "", "", ""};
        push.postures = {"push"};
        push.words.title = "push";
        low.above = false;
        low.words.cue = "low";
        both.stances = StanceSet{StanceKind::Bow};
        both.schools = {"gentle"};
        both.words.name = "gentle bow";
        const std::vector<FaultText> texts{push, both, bow, low};
        const FaultWords in = wordsFor(own, texts, {"push", StanceKind::Bow, {{"gentle"}}, "", false});
        QCOMPARE(in.name, std::string("gentle bow"));
        QCOMPARE(in.title, std::string("push"));
        QCOMPARE(in.cue, std::string("low"));
        QCOMPARE(in.drill, std::string("drill"));
        QCOMPARE(wordsFor(own, texts, {"press", StanceKind::Sit, {}, "", true}).name, std::string("name"));
        // A school that extends another has its words.
        QCOMPARE(wordsFor(own, texts, {"press", StanceKind::Bow, {{"mine", "gentle"}}, "", true}).name,
                 std::string("gentle bow"));
    }

    void sidesAreNamed()
    {
        const FaultWords w =
            withSides({"{rear} elbow", "{rear} elbow down", "{lead}, {rear}", "", ""}, "right", "left");
        QCOMPARE(w.name, std::string("left elbow"));
        QCOMPARE(w.title, std::string("Left elbow down"));
        QCOMPARE(w.cue, std::string("right, left"));
        for (const FaultRule& rule : shipped().rules.all())
            QVERIFY2(rule.plainName().find('{') == std::string::npos, rule.id.c_str());
    }

    /// Cases in which one text for all would say the opposite of what helps.
    void theWordsFitWhereTheyAreSaid()
    {
        // Over-turned hips are not asked to turn more.
        const auto over = shippedWords("hips-over-turned", at("push", StanceKind::Bow, "upright-broad"));
        QVERIFY(over.cue.find("stop") != std::string::npos);
        const auto whip =
            shippedWords("hips-over-turned", at("single-whip", StanceKind::Bow, "upright-broad"));
        QCOMPARE(whip.title, std::string("Leave the back hip open"));
        // In the inclined school an upright trunk does not lean back.
        QCOMPARE(shippedWords("lean-back", at("push", StanceKind::Bow, "inclined-straight")).name,
                 std::string("trunk too upright"));
        QCOMPARE(shippedWords("lean-back", at("push", StanceKind::Bow, "spiral")).name,
                 std::string("leaning back"));
        // The hand that brushes ends beside the thigh.
        QVERIFY(
            shippedWords("hand-off-centre", at("brush-knee", StanceKind::Bow, "gentle")).cue.find("thigh") !=
            std::string::npos);
        // Schools name their own angle of the back foot.
        std::set<std::string> cues;
        for (const SchoolStandard& s : shipped().standards.schools)
            cues.insert(shippedWords("rear-foot-angle", at("push", StanceKind::Bow, s.id.c_str())).cue);
        QCOMPARE(cues.size(), std::size_t(4)); // the gentle frame stands as the upright one
        for (const FaultRule& r : shipped().rules.all())
            for (const char* wrong : {"bounce", "ligament", "kneecap", "cartilage"})
                QVERIFY2((r.words.drill + r.words.reason).find(wrong) == std::string::npos, r.id.c_str());
    }

    void textsNameWhatExists()
    {
        for (const FaultRule& rule : shipped().rules.all())
            for (const FaultText& text : rule.texts) {
                for (const std::string& posture : text.postures)
                    QVERIFY2(shipped().standards.posture(posture), posture.c_str());
                for (const std::string& school : text.schools)
                    QVERIFY2(shipped().standards.school(school), school.c_str());
                for (const std::string& level : text.levels)
                    QVERIFY2(shipped().standards.level(level), level.c_str());
            }
        for (const PostureCaution& c : shipped().standards.cautions)
            for (const std::string& posture : c.postures)
                QVERIFY2(shipped().standards.posture(posture), posture.c_str());
        for (const PostureStandard& p : shipped().standards.postures)
            QVERIFY2(!p.purpose.use.empty() && !p.purpose.feel.empty() && !p.purpose.force.empty(),
                     p.id.c_str());
    }
};

QTEST_APPLESS_MAIN(TestFaultText)
#include "test_fault_text.moc"
