#include "base/error.h"
#include "scene/history.h"
#include "scene/recipe.h"
#include "support.h"

#include <set>

using namespace hygros;
using namespace hygros::scene;

namespace {
Project withHaze()
{
    Project p = elements::newProject();
    p.add(*elements::findKind("haze"), "Morning haze");
    return p;
}
Project parsed(const std::string& text) { return fromJson(text, "test.hygros", elements::findKind); }
std::string projectWith(const std::string& element)
{
    return R"({"format":"hygros-project","version":1,"elements":[)" + element + "]}";
}
} // namespace

class TestScene : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void everyParameterOfEveryKindSurvivesSaving()
    {
        Project p = elements::newProject();
        for (const elements::Kind& k : elements::kinds()) {
            if (k.single && p.find(k.id))
                continue;
            p.add(k, k.label);
        }
        // Give every field a value that is not its default.
        for (Element& e : p.elements)
            for (const Parameter& q : e.kind->parameters) {
                switch (q.type) {
                case ValueType::Number: e.set(q.id, std::clamp(q.rulerValue(0.37), q.hardMin, q.hardMax)); break;
                case ValueType::Whole: e.set(q.id, std::int64_t(5)); break;
                case ValueType::Choice: e.set(q.id, q.choices.back()); break;
                case ValueType::Colour: e.set(q.id, Vec3(0.1f, 0.7f, 0.33f)); break;
                case ValueType::Point: e.set(q.id, Vec3(1.25f, 2.1f, 3.7f)); break;
                case ValueType::Curve: e.set(q.id, CurvePoints{{-4.f, 0.1f}, {1.5f, 0.7f}, {3.f, 0.9f}}); break;
                case ValueType::Stops:
                    e.set(q.id, ColourStops{{0.f, Vec3(0.2f), 0.f},
                                            {0.5f, Vec3(0.1f, 2.f, 0.3f), 0.25f},
                                            {1.f, Vec3(1.f), 1.f}});
                    break;
                case ValueType::Switch: e.set(q.id, true); break;
                case ValueType::Text:
                case ValueType::File: e.set(q.id, std::string("some/file.glb")); break;
                }
            }
        const Project back = parsed(toJson(p));
        QCOMPARE(back.elements.size(), p.elements.size());
        for (std::size_t i = 0; i < p.elements.size(); ++i)
            for (const Parameter& q : p.elements[i].kind->parameters)
                QVERIFY2(q.get(*back.elements[i].settings) == q.get(*p.elements[i].settings), q.id.c_str());
        QCOMPARE(toJson(back), toJson(p));
    }

    void unknownKeysAndKindsAreKept()
    {
        const std::string text = R"({"format":"hygros-project","version":1,"studio":{"shot":"A12"},"elements":[
            {"id":"h","kind":"haze","name":"H","note":"ask Ina","settings":{"visibility":900,"sparkle":3}},
            {"id":"x","kind":"aurora","settings":{"hue":0.3}}]})";
        const std::string saved = toJson(parsed(text));
        for (const char* kept : {"A12", "ask Ina", "sparkle", "aurora", "\"hue\": 0.3"})
            QVERIFY2(saved.find(kept) != std::string::npos, kept);
        QCOMPARE(toJson(parsed(saved)), saved);
    }

    void damageIsNamedAndRefused()
    {
        THROWS_SAYING(parsed("{\"format\":\"hygros-project\",\n\"version\":1,\n\"elements\":["), "damaged near line 3");
        THROWS_SAYING(parsed("[]"), "not a Hygros project");
        THROWS_SAYING(parsed(R"({"format":"hygros-project","version":99})"), "newer Hygros");
        THROWS_SAYING(parsed(R"({"format":"hygros-project"})"), "version is missing");
        THROWS_SAYING(parsed(projectWith(R"({"id":"h","kind":"haze","settings":{"visibility":-5}})")),
                      "visibility must lie within");
        THROWS_SAYING(parsed(projectWith(R"({"id":"h","kind":"haze","settings":{"visibility":NaN}})")), "damaged");
        THROWS_SAYING(parsed(projectWith(R"({"id":"h","kind":"haze","settings":{"visibility":1e999}})")),
                      "'test.hygros'");
        THROWS_SAYING(parsed(projectWith(R"({"id":"h","kind":"haze","settings":{"visibility":"far"}})")),
                      "visibility must be a number");
        THROWS_SAYING(parsed(projectWith(R"({"id":"h","kind":"haze","settings":{"extinction":-0.1}})")),
                      "greater than 0");
        THROWS_SAYING(parsed(projectWith(R"({"id":"h","kind":"haze"},{"id":"h","kind":"haze"})")), "used twice");
        THROWS_SAYING(parsed(projectWith(R"({"kind":"haze"})")), "its id is missing");
        THROWS_SAYING(parsed(projectWith(R"({"id":"l","kind":"look","settings":{"curve":[[0,0.5],[1,0.2]]}})")),
                      "must rise");
    }

    void densityMayBeGivenAsExtinctionOrMeanFreePath()
    {
        NEAR(std::get<double>(parsed(projectWith(R"({"id":"h","kind":"haze","settings":{"extinction":0.01}})"))
                                  .find("h")
                                  ->value("visibility")),
             299.573, 1e-5);
        NEAR(std::get<double>(parsed(projectWith(R"({"id":"h","kind":"haze","settings":{"meanFreePath":100}})"))
                                  .find("h")
                                  ->value("visibility")),
             299.573, 1e-5);
    }

    void pathsSetValuesWithUnits()
    {
        Project p = withHaze();
        p.setPath("morning-haze.visibility", "2 km");
        QCOMPARE(std::get<double>(p.find("morning-haze")->value("visibility")), 2000.0);
        p.setPath("morning-haze.extinction", "0.01");
        NEAR(std::get<double>(p.find("morning-haze")->value("visibility")), 299.573, 1e-5);
        p.setPath("morning-haze.albedo", "0.9, 0.8, 0.7");
        QVERIFY(std::get<Vec3>(p.find("morning-haze")->value("albedo")) == Vec3(0.9f, 0.8f, 0.7f));
        p.setPath("morning-haze.muted", "on");
        QVERIFY(p.find("morning-haze")->muted);
        THROWS_SAYING(p.setPath("fog.visibility", "2 km"), "there is no element 'fog'");
        THROWS_SAYING(p.setPath("morning-haze.colour", "2"), "has no parameter 'colour'");
        THROWS_SAYING(p.setPath("morning-haze.visibility", "nan"), "does not understand");
        THROWS_SAYING(p.setPath("morning-haze.extinction", "-0.2"), "greater than 0");
        THROWS_SAYING(p.setPath("morning-haze.form", "cubic"), "must be one of");
    }

    void soloSilencesTheRestOfItsFamilyOnly()
    {
        Project p = withHaze();
        p.add(*elements::findKind("fogBank"), "Bank");
        QVERIFY(!p.silent(*p.find("bank")));
        p.find("morning-haze")->soloed = true;
        QVERIFY(p.silent(*p.find("bank")));
        QVERIFY(!p.silent(*p.find("morning-haze")));
        QVERIFY(!p.silent(*p.find("sun")));
        p.find("morning-haze")->muted = true;
        QVERIFY(p.silent(*p.find("morning-haze")));
    }

    void undoGoesBackStepByStepAndADragIsOneStep()
    {
        History h(withHaze());
        const auto set = [&](double v, const char* merge) {
            Project p = h.now();
            p.find("morning-haze")->set("visibility", v);
            h.push(p, "visibility", merge);
        };
        const auto now = [&] { return std::get<double>(h.now().find("morning-haze")->value("visibility")); };
        set(100, "drag");
        set(200, "drag");
        set(300, "drag");
        h.close();
        set(400, "drag");
        QCOMPARE(now(), 400.0);
        h.undo();
        QCOMPARE(now(), 300.0);
        h.undo();
        QCOMPARE(now(), 2500.0);
        QVERIFY(!h.canUndo());
        h.redo();
        QCOMPARE(now(), 300.0);
        set(50, "");
        QVERIFY(!h.canRedo());
    }

    void savingElsewhereKeepsTheSetReachable()
    {
        QTemporaryDir dir;
        QDir(dir.path()).mkpath("a/deep");
        Project p = elements::newProject();
        p.folder = (dir.path() + "/a").toStdString();
        p.add(*elements::findKind("set"), "Place").set("file", std::string("geo/place.glb"));
        saveProject(p, (dir.path() + "/a/deep/shot.hygros").toStdString());
        const Project back = loadProject((dir.path() + "/a/deep/shot.hygros").toStdString(), elements::findKind);
        QCOMPARE(std::get<std::string>(back.find("place")->value("file")), std::string("../geo/place.glb"));
        QCOMPARE(resolved(back, "../geo/place.glb"),
                 std::filesystem::path((dir.path() + "/a/geo/place.glb").toStdString()));
    }

    void rulersGoThereAndBack()
    {
        for (const elements::Kind& k : elements::kinds())
            for (const Parameter& q : k.parameters)
                if (q.type == ValueType::Number) {
                    for (const double at : {0.0, 0.25, 0.9})
                        QVERIFY2(std::abs(q.rulerPosition(q.rulerValue(at)) - at) < 1e-9, q.id.c_str());
                    QVERIFY2(q.softMin >= q.hardMin && q.softMax <= q.hardMax, q.id.c_str());
                    QVERIFY2(!q.help.empty(), q.id.c_str());
                }
    }

    void everyRecipeLoadsAndMakesAir()
    {
        QStringList problems;
        const auto all = recipesIn(std::string(SOURCE_DIR) + "/demo/recipes", elements::findKind,
                                   [&](const std::string& why) { problems << QString::fromStdString(why); });
        QVERIFY2(problems.isEmpty(), qPrintable(problems.join("; ")));
        std::map<std::string, int> folders;
        for (const Recipe& r : all)
            ++folders[r.file.parent_path().filename().string()];
        QVERIFY(folders["recipes"] >= 10);
        // Those of water are found as those of matter, fire and weather are, in the folders beside.
        for (const char* folder : {"matter", "fire", "weather", "water"})
            QVERIFY2(folders[folder] >= 4, folder);
        Store store;
        JobControl job;
        for (const Recipe& r : all) {
            if (r.file.parent_path().filename() != "recipes")
                continue;
            QVERIFY2(r.help.ends_with('.') &&
                         (r.help.find(" m") != std::string::npos || r.help.find("km") != std::string::npos),
                     r.name.c_str());
            Project p = elements::newProject();
            const auto ids = applyRecipe(p, r);
            QCOMPARE(ids.size(), r.part.elements.size());
            const auto shot = elements::freeze(p, store, job);
            // Each element is a medium (with clean air two of them), a deck or a veil.
            const auto contributors = [](const shot::Shot& of) {
                std::set<std::string> seen;
                for (const media::Medium& m : of.media)
                    seen.insert(m.id);
                for (const media::CloudDeck& d : of.decks)
                    seen.insert(d.id);
                for (const media::Veil& v : of.veils)
                    seen.insert(v.id);
                return seen.size();
            };
            QVERIFY2(contributors(*shot) == ids.size(), r.name.c_str());
            for (const media::Medium& m : shot->media)
                QVERIFY2(m.sigmaT > 0.f && m.sigmaT < 1.f, r.name.c_str());
            // Twice is possible, with ids of its own.
            applyRecipe(p, r);
            QCOMPARE(contributors(*elements::freeze(p, store, job)), 2 * ids.size());
            QCOMPARE(toJson(parsed(toJson(p))), toJson(p));
        }
    }

    void recipesForMatterBringTheirVolumesAndStandWhereTheyAreAsked()
    {
        QStringList problems;
        const auto all = recipesIn(std::string(SOURCE_DIR) + "/demo/recipes/matter", elements::findKind,
                                   [&](const std::string& why) { problems << QString::fromStdString(why); });
        QVERIFY2(problems.isEmpty(), qPrintable(problems.join("; ")));
        QCOMPARE(all.size(), std::size_t(8));
        Store store;
        JobControl job;
        const QTemporaryDir dir;
        for (const Recipe& r : all) {
            QVERIFY2(r.stands > 0.0 && r.help.ends_with('.'), r.name.c_str());
            Project p = elements::newProject();
            p.folder = dir.path().toStdString();
            const auto ids = applyRecipe(p, r, 1.0, Vec3(3.f, 1.f, -50.f));
            applyRecipe(p, r, 1.0, Vec3(100.f, 0.f, 0.f)); // twice is possible
            QVERIFY(!std::filesystem::path(std::get<std::string>(p.find(ids[0])->value("file"))).is_absolute());
            const auto shot = elements::freeze(p, store, job);
            QVERIFY2(shot->notes.empty(), shot->notes.empty() ? "" : shot->notes[0].text.c_str());
            QCOMPARE(shot->volumes.size(), std::size_t(2));
            QVERIFY(shot->volumes[0].bounds.min.x < 3.f && shot->volumes[0].bounds.max.x > 3.f &&
                    shot->volumes[0].bounds.max.z > -50.f);
            QVERIFY(shot->volumes[0].density == shot->volumes[1].density); // in memory once
            QCOMPARE(shot->volumes[1].tints.size(), ids.size() - 1);       // each tint went with its own volume
            QCOMPARE(shot->volumes[0].glow.heat != nullptr,
                     r.name == "Fireball" || r.name == "Oil smoke" || r.name == "Embers glow");
        }
    }

    void aRecipeIsFittedToASetOfAnotherDepth()
    {
        const auto all = recipesIn(std::string(SOURCE_DIR) + "/demo/recipes", elements::findKind,
                                   [](const std::string&) {});
        const auto mist = std::find_if(all.begin(), all.end(), [](const Recipe& r) { return r.name == "River mist"; });
        QVERIFY(mist != all.end());
        QCOMPARE(mist->depth, 600.0);
        Project p = elements::newProject();
        const auto ids = applyRecipe(p, *mist, 0.1);
        NEAR(std::get<double>(p.find(ids[0])->value("visibility")), 300.0, 1e-9);
        NEAR(std::get<double>(p.find(ids[1])->value("top")), 0.3, 1e-9);
        NEAR(std::get<double>(p.find(ids[1])->value("scale")), 1.4, 1e-9);
        NEAR(std::get<double>(p.find(ids[1])->value("driftSpeed")), 0.4, 1e-9); // a speed is no length
        // Whatever the factor, the values stay what a parameter may be.
        Project far = elements::newProject();
        applyRecipe(far, *mist, 1e9);
        QCOMPARE(toJson(parsed(toJson(far))), toJson(far));
    }

    void badRecipesAreNamedAndTheOthersStillCome()
    {
        QTemporaryDir dir;
        const auto write = [&](const char* name, const char* text) {
            QFile f(dir.filePath(name));
            QVERIFY(f.open(QIODevice::WriteOnly));
            f.write(text);
        };
        write("a.hygros-recipe", "{\"format\":");
        write("b.hygros-recipe", R"({"format":"hygros-project","version":1,"elements":[]})");
        write("c.hygros-recipe", R"({"format":"hygros-recipe","version":1,"elements":[]})");
        write("d.hygros-recipe", R"({"format":"hygros-recipe","version":1,"elements":[{"id":"s","kind":"sun"}]})");
        write(
            "e.hygros-recipe",
            R"({"format":"hygros-recipe","version":1,"elements":[{"id":"h","kind":"haze","settings":{"visibility":-1}}]})");
        write("f.hygros-recipe", R"({"format":"hygros-recipe","version":7,"elements":[{"id":"h","kind":"haze"}]})");
        write("good.hygros-recipe",
              R"({"format":"hygros-recipe","version":1,"name":"Good","elements":[{"id":"h","kind":"haze"}]})");
        write("notes.txt", "not a recipe");
        QStringList problems;
        const auto all = recipesIn(dir.path().toStdString(), elements::findKind,
                                   [&](const std::string& why) { problems << QString::fromStdString(why); });
        QCOMPARE(all.size(), 1u);
        QCOMPARE(all[0].name, std::string("Good"));
        QCOMPARE(problems.size(), 6);
        const QString said = problems.join("\n");
        for (const char* words : {"not valid JSON", "not a Hygros recipe", "no element", "of its own",
                                  "visibility must lie within", "newer Hygros"})
            QVERIFY2(said.contains(words), words);
        QVERIFY(recipesIn(dir.filePath("none").toStdString(), elements::findKind, [](const std::string&) {}).empty());
    }
};
QTEST_APPLESS_MAIN(TestScene)
#include "test_scene.moc"
