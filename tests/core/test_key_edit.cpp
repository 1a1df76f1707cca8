/// Many keys at once: moved, stretched, taken away, copied.
#include "elements/kinds.h"
#include "scene/key_edit.h"
#include "support.h"

using namespace hygros;
using scene::KeyPlaces;
using scene::Way;

namespace {
scene::Project keyed()
{
    scene::Project p = elements::newProject();
    scene::Element& haze = p.add(*elements::findKind("haze"), "Haze");
    scene::Track sight, g;
    sight.keys = {scene::keyAt(1, 1000.0), scene::keyAt(11, 2000.0, Way::Linear), scene::keyAt(21, 500.0, Way::Hold)};
    sight.keys[1].out = Vec3(30.f);
    haze.setTrack("visibility", sight);
    g.keys = {scene::keyAt(5, 0.2), scene::keyAt(15, 0.8)};
    haze.setTrack("anisotropy", g);
    p.add(*elements::findKind("fogBank"), "Bank");
    return p;
}
const scene::Track& track(const scene::Project& p, const char* parameter, const char* element = "haze")
{
    return *p.find(element)->track(parameter);
}
std::vector<double> frames(const scene::Track& t)
{
    std::vector<double> all;
    for (const scene::Key& k : t.keys)
        all.push_back(k.frame);
    return all;
}
} // namespace

class TestKeyEdit : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void keysOfSeveralParametersMoveTogether()
    {
        scene::Project p = keyed();
        const KeyPlaces now = scene::changeKeys(p, {{"haze", "visibility", 11}, {"haze", "anisotropy", 5}},
                                                scene::shifted(2.4, true));
        QCOMPARE(now, (KeyPlaces{{"haze", "visibility", 13}, {"haze", "anisotropy", 7}}));
        QCOMPARE(frames(track(p, "visibility")), (std::vector<double>{1, 13, 21}));
        QCOMPARE(frames(track(p, "anisotropy")), (std::vector<double>{7, 15}));
        // A moved key keeps its way and its slope.
        QVERIFY(track(p, "visibility").keys[1].way == Way::Linear);
        QCOMPARE(track(p, "visibility").keys[1].out->x, 30.f);
        scene::changeKeys(p, {{"haze", "visibility", 13}}, scene::shifted(0.4, false));
        QCOMPARE(frames(track(p, "visibility")), (std::vector<double>{1, 13.4, 21}));
    }

    void whoIsMovedOntoAnotherTakesItsPlace()
    {
        scene::Project p = keyed();
        scene::changeKeys(p, {{"haze", "visibility", 11}}, scene::shifted(10.0, true));
        QCOMPARE(frames(track(p, "visibility")), (std::vector<double>{1, 21}));
        QCOMPARE(std::get<double>(track(p, "visibility").keys[1].value), 2000.0);
        // Chosen ones pass one another without loss.
        p = keyed();
        scene::changeKeys(p, {{"haze", "visibility", 1}, {"haze", "visibility", 11}}, scene::shifted(10.0, true));
        QCOMPARE(frames(track(p, "visibility")), (std::vector<double>{11, 21}));
        QCOMPARE(std::get<double>(track(p, "visibility").keys[0].value), 1000.0);
    }

    void stretchedTimeTakesSlopesAlong()
    {
        scene::Project p = keyed();
        scene::changeKeys(p, {{"haze", "visibility", 1}, {"haze", "visibility", 11}, {"haze", "visibility", 21}},
                          scene::stretched(1.0, 3.0, true));
        QCOMPARE(frames(track(p, "visibility")), (std::vector<double>{1, 31, 61}));
        NEAR(track(p, "visibility").keys[1].out->x, 10.0, 1e-5); // as steep on the page, a third a frame
        // About the play head between them, and to fractions where that is wanted.
        scene::changeKeys(p, {{"haze", "visibility", 31}}, scene::stretched(30.0, 0.25, false));
        QCOMPARE(frames(track(p, "visibility")), (std::vector<double>{1, 30.25, 61}));
    }

    void aValueThatIsRefusedChangesNothing()
    {
        scene::Project p = keyed();
        const std::string before = scene::toJson(p);
        THROWS_SAYING(
            scene::changeKeys(p, {{"haze", "anisotropy", 5}, {"haze", "visibility", 1}}, scene::shifted(3.0, true),
                              [](const scene::Parameter&, const scene::Value&) -> scene::Value { return -5.0; }),
            "");
        QCOMPARE(scene::toJson(p), before);
    }

    void theLastKeyThatGoesLeavesItsValue()
    {
        scene::Project p = keyed();
        scene::removeKeys(p, {{"haze", "anisotropy", 5}});
        QCOMPARE(frames(track(p, "anisotropy")), std::vector<double>{15});
        scene::removeKeys(p, {{"haze", "anisotropy", 15}});
        QVERIFY(!p.find("haze")->track("anisotropy"));
        QCOMPARE(std::get<double>(p.find("haze")->value("anisotropy")), 0.8);
        // What is not there does no harm.
        scene::removeKeys(p, {{"haze", "visibility", 99}, {"gone", "visibility", 1}});
        QCOMPARE(track(p, "visibility").keys.size(), std::size_t{3});
    }

    void copiedKeysComeToOtherElements()
    {
        scene::Project p = keyed();
        const std::string text = scene::keysToText(
            p, {{"haze", "visibility", 11}, {"haze", "visibility", 21}, {"haze", "anisotropy", 15}});
        const KeyPlaces now = scene::pasteKeys(p, "bank", 100.0, text);
        QCOMPARE(now,
                 (KeyPlaces{{"bank", "visibility", 100}, {"bank", "visibility", 110}, {"bank", "anisotropy", 104}}));
        QVERIFY(track(p, "visibility", "bank").keys[1].way == Way::Hold);
        // Only what the element has, and what its range allows.
        QVERIFY(scene::pasteKeys(p, "look", 1.0, text).empty());
        THROWS_SAYING(scene::pasteKeys(p, "bank", 1.0, "{\"other\": 1}"), "no keys");
        THROWS_SAYING(scene::pasteKeys(p, "nobody", 1.0, text), "no element 'nobody'");
        THROWS_SAYING(scene::pasteKeys(p, "bank", 1.0, std::string(100, '[')), "");
        QVERIFY(scene::pasteKeys(p, "bank", 1.0,
                                 "{\"hygros-keys\": {\"visibility\": {\"keys\": [{\"frame\": 0, \"value\": \"x\"}]}, "
                                 "\"top\": 7}}")
                    .empty());
    }

    void motionIsSharedUntilOneIsChanged()
    {
        scene::Project p = keyed(), copy = p;
        QCOMPARE(copy.find("haze")->motion.of("visibility"), p.find("haze")->motion.of("visibility"));
        scene::removeKeys(copy, {{"haze", "visibility", 1}});
        QCOMPARE(track(p, "visibility").keys.size(), std::size_t{3});
        QCOMPARE(track(copy, "visibility").keys.size(), std::size_t{2});
        QCOMPARE(copy.find("haze")->motion.of("anisotropy"), p.find("haze")->motion.of("anisotropy"));
    }
};
QTEST_APPLESS_MAIN(TestKeyEdit)
#include "test_key_edit.moc"
