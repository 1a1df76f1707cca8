#include "base/error.h"
#include "base/frame_store.h"
#include "elements/bake.h"
#include "scene/evaluate.h"
#include "support.h"

#include <QProcess>
#include <QTemporaryDir>
#include <QTest>
#include <cmath>
#include <csignal>
#include <fstream>

using namespace hygros;
namespace fs = std::filesystem;
using State = FrameStore::State;

namespace {
/// A wind and what it carries: 12 frames.
scene::Project windy()
{
    scene::Project p = elements::newProject();
    p.time.last = 12;
    scene::Element& gale = p.add(*elements::findKind("wind"), "Gale");
    gale.set("speed", 5.0);
    scene::Element& dots = p.add(*elements::findKind("tracers"), "Dots");
    dots.set("count", std::int64_t{300});
    return p;
}
std::span<const char> bytesOf(const std::string& text) { return {text.data(), text.size()}; }

QString run(const QStringList& arguments, int* code = nullptr)
{
    QProcess process;
    process.setProcessChannelMode(QProcess::MergedChannels);
    process.start(CLI, arguments);
    process.waitForFinished(120000);
    if (code)
        *code = process.exitCode();
    return QString::fromUtf8(process.readAll());
}
} // namespace

class TestBake : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;
    fs::path inside(const char* name) const { return fs::path(folder_.path().toStdString()) / name; }

private Q_SLOTS:
    void aFrameComesBackAsItWasWritten()
    {
        FrameStore store(inside("plain"));
        const Origins origins{{"gale.speed", 17}, {"the frame rate", 3}};
        const std::string what("what was\0baked", 14);
        QVERIFY(store.look("dots", 1, origins).state == State::Missing);
        store.write("dots", 1, origins, bytesOf(what));
        store.write("dots/2 ..", -12, origins, bytesOf(what));
        QVERIFY(store.look("dots", 1, origins).state == State::Fresh);
        const Payload back = store.read("dots", 1);
        QCOMPARE(std::string(back.bytes().begin(), back.bytes().end()), what);
        // Whatever an id holds, its folder lies in the store, and is told as the id.
        const auto contents = FrameStore(inside("plain")).contents();
        QCOMPARE(contents.size(), std::size_t{2});
        QCOMPARE(contents[1].element, std::string("dots/2 .."));
        QCOMPARE(contents[1].frames, std::vector<int>{-12});
    }

    void whatIsStaleSaysWhy()
    {
        FrameStore store(inside("stale"));
        store.write("dots", 5, {{"a", 1}, {"b", 2}, {"c", 3}}, bytesOf("x"));
        const auto answer = store.look("dots", 5, {{"a", 1}, {"b", 7}, {"d", 4}});
        QVERIFY(answer.state == State::Stale);
        QCOMPARE(answer.why, std::string("b has changed since; d has come since; c is gone"));
    }

    void damageIsFoundAndSaid_data()
    {
        QTest::addColumn<int>("at"); // from the end where negative
        QTest::addColumn<bool>("cut");
        QTest::newRow("another kind of file") << 2 << false;
        QTest::newRow("a longer head than the file") << 11 << false;
        QTest::newRow("a byte of what was baked") << -20 << false;
        QTest::newRow("its digest") << -1 << false;
        QTest::newRow("torn") << -5 << true;
        QTest::newRow("nearly nothing left") << 6 << true;
    }
    void damageIsFoundAndSaid()
    {
        QFETCH(int, at);
        QFETCH(bool, cut);
        FrameStore store(inside("damage"));
        store.write("dots", 1, {{"a", 1}}, bytesOf(std::string(100, 'z')));
        const fs::path file = store.fileOf("dots", 1);
        const auto place = at < 0 ? static_cast<std::intmax_t>(fs::file_size(file)) + at : at;
        if (cut) {
            fs::resize_file(file, static_cast<std::uintmax_t>(place));
        } else {
            std::fstream io(file, std::ios::in | std::ios::out | std::ios::binary);
            io.seekp(place);
            io.put('\x7f');
        }
        QVERIFY_THROWS_EXCEPTION(Error, store.read("dots", 1));
        store.purge();
        QVERIFY(!fs::exists(inside("damage")));
    }

    void aFullStoreLetsStaleFramesGoFirstAndThenSaysSo()
    {
        FrameStore store(inside("full"), 4000);
        const std::string kilobyte(1000, 'k');
        for (int frame = 1; frame <= 3; ++frame)
            store.write(frame == 2 ? "gone" : "dots", frame, {}, bytesOf(kilobyte));
        const auto mayGo = [](const std::string& element, int) { return element == "gone"; };
        store.write("dots", 4, {}, bytesOf(kilobyte), mayGo);
        QVERIFY(store.look("gone", 2, {}).state == State::Missing);
        try {
            store.write("dots", 5, {}, bytesOf(kilobyte), mayGo);
            QFAIL("it was written");
        } catch (const Error& e) {
            QVERIFY(std::string(e.what()).find("the frame store is full") != std::string::npos);
        }
        for (const int frame : {1, 3, 4})
            QVERIFY(store.look("dots", frame, {}).state == State::Fresh);
    }

    void tracersGoWithTheWind()
    {
        scene::Project p = windy();
        p.find("gale")->set("gusts", 0.0);
        p.find("dots")->set("life", 1000.0);
        p.baked = inside("even");
        FrameStore frames(p.baked);
        Store store;
        JobControl job;
        const auto done = elements::bake(p, "dots", frames, store, job);
        QCOMPARE(done.baked, 12);
        const auto shotAt = [&](int frame) {
            p.frame = frame;
            return elements::freeze(p, store, job);
        };
        const auto first = shotAt(1), last = shotAt(11);
        const auto& a = *first->airflow.tracers.at(0).points;
        const auto& b = *last->airflow.tracers.at(0).points;
        QCOMPARE(a.size(), std::size_t{300});
        QVERIFY(first->notes.empty());
        // Ten frames of a 25th of a second in the mean wind of its own height; toward 90 degrees is +X.
        for (std::size_t i = 0; i < a.size(); ++i) {
            const Vec3 way = first->airflow.winds.at(0).mean(a[i].y) * 0.4f;
            QVERIFY2((b[i] - a[i] - way).length() < 1e-3f * way.length() + 1e-4f,
                     qPrintable(QString("%1 %2").arg(double((b[i] - a[i]).x)).arg(double(way.x))));
        }
    }

    void aBakeGoesOnWhereItStopped()
    {
        scene::Project p = windy();
        p.time.preRoll = 0.2;
        Store store;
        JobControl job;
        FrameStore whole(inside("at-once")), pieces(inside("in-pieces"));
        elements::bake(p, "dots", whole, store, job);
        QCOMPARE(elements::bake(p, "dots", pieces, store, job, {5}).baked, 5);
        const auto rest = elements::bake(p, "dots", pieces, store, job);
        QCOMPARE(rest.resumedAfter, 5);
        QCOMPARE(rest.baked, 7);
        for (int frame = 1; frame <= 12; ++frame) {
            const Payload a = whole.read("dots", frame), b = pieces.read("dots", frame);
            QVERIFY(std::equal(a.bytes().begin(), a.bytes().end(), b.bytes().begin(), b.bytes().end()));
        }
        QCOMPARE(elements::bake(p, "dots", pieces, store, job).baked, 0); // done at once
    }

    void settingsThatChangeWhileItIsBakedComeInAndAreMarked()
    {
        scene::Project p = windy();
        p.baked = inside("changing");
        Store store;
        JobControl job;
        FrameStore frames(p.baked);
        auto other = std::make_shared<scene::Project>(p);
        other->find("gale")->set("speed", 9.0);
        int newest = 0;
        int asked = 0;
        elements::BakeWishes wishes;
        wishes.kept = [&](int frame) { newest = frame; };
        wishes.renewed = [&]() -> std::shared_ptr<const scene::Project> {
            return ++asked == 5 ? other : nullptr; // before frame 6
        };
        QCOMPARE(elements::bake(p, "dots", frames, store, job, wishes).baked, 12);
        QCOMPARE(newest, 12);
        // Before the change they are what the old settings give, from it on they are nobody's but say so.
        const auto was = elements::bakedSpan(p, "dots", frames, store),
                   now = elements::bakedSpan(*other, "dots", frames, store);
        QCOMPARE(was.count(State::Fresh), 5);
        QCOMPARE(now.count(State::Fresh), 0);
        QCOMPARE(was.changes, std::vector<int>{6});
        QVERIFY(frames.look("dots", 8, elements::Provenance(*other, "dots", store).at(8)).why ==
                "other settings before frame 6");
        // A bake with the new settings does all of it again, and then no mark is left.
        QCOMPARE(elements::bake(*other, "dots", frames, store, job).baked, 12);
        const auto done = elements::bakedSpan(*other, "dots", frames, store);
        QCOMPARE(done.count(State::Fresh), 12);
        QVERIFY(done.changes.empty());
        // Something that it does not come from changes nothing.
        auto same = std::make_shared<scene::Project>(p);
        same->find("look")->set("exposure", 3.0);
        wishes.renewed = [&]() -> std::shared_ptr<const scene::Project> { return same; };
        elements::bake(p, "dots", frames, store, job, wishes);
        QCOMPARE(elements::bakedSpan(p, "dots", frames, store).count(State::Fresh), 12);
        QVERIFY(!sim::frameOfChange("other settings before frame x").has_value());
        QCOMPARE(sim::frameOfChange(sim::changeAt(-3)).value(), -3);
    }

    void aFrameDamagedWithinIsBakedAgain()
    {
        scene::Project p = windy();
        Store store;
        JobControl job;
        FrameStore frames(inside("within"));
        elements::bake(p, "dots", frames, store, job, {6});
        {
            std::fstream io(frames.fileOf("dots", 6), std::ios::in | std::ios::out | std::ios::binary);
            io.seekp(-30, std::ios::end);
            io.put('\x55');
        }
        const auto done = elements::bake(p, "dots", frames, store, job);
        QCOMPARE(done.resumedAfter, 5);
        QCOMPARE(done.baked, 7);
        frames.read("dots", 6);
    }

    void whatChangesUpstreamMakesFramesStaleAndSaysWhy()
    {
        scene::Project p = windy();
        Store store;
        JobControl job;
        FrameStore frames(inside("upstream"));
        elements::bake(p, "dots", frames, store, job);
        const auto span = [&] { return elements::bakedSpan(p, "dots", frames, store); };
        QCOMPARE(span().count(State::Fresh), 12);
        // What is only looked at, and what it does not come from.
        p.find("dots")->set("trail", 1.0);
        p.find("sun")->set("elevation", 33.0);
        p.name = "Other";
        QCOMPARE(span().count(State::Fresh), 12);
        p.find("gale")->set("speed", 6.0);
        QCOMPARE(span().count(State::Stale), 12);
        QCOMPARE(span().why, std::string("gale.speed has changed since"));
        p.find("gale")->set("speed", 5.0);
        QCOMPARE(span().count(State::Fresh), 12);
        p.add(*elements::findKind("wind"), "Breeze");
        QVERIFY(span().why.find("breeze.") != std::string::npos);
        p.find("breeze")->muted = true;
        QCOMPARE(span().count(State::Fresh), 12);
        p.time.rate = {24, 1};
        QCOMPARE(span().why, std::string("the frame rate has changed since"));
    }

    void aKeyFarOnLeavesWhatLiesBeforeItFresh()
    {
        scene::Project p = windy();
        scene::Track track;
        track.keys = {scene::keyAt(1, 5.0, scene::Way::Linear), scene::keyAt(6, 5.0, scene::Way::Linear),
                      scene::keyAt(12, 9.0, scene::Way::Linear)};
        p.find("gale")->setTrack("speed", track);
        Store store;
        JobControl job;
        FrameStore frames(inside("keys"));
        elements::bake(p, "dots", frames, store, job);
        track.keys[2].value = 3.0;
        p.find("gale")->setTrack("speed", track);
        const auto span = elements::bakedSpan(p, "dots", frames, store);
        for (int frame = 1; frame <= 12; ++frame)
            QVERIFY((span.states[static_cast<std::size_t>(frame - 1)] == State::Fresh) == (frame <= 6));
        QCOMPARE(elements::bake(p, "dots", frames, store, job).resumedAfter, 6);
    }

    void aKeyedDriftIsTheWayThatWasGone()
    {
        // 0 to 2 m/s over 4 seconds: after 4 s 4 m lie behind it, not 8.
        scene::Project p = elements::newProject();
        scene::Element& bank = p.add(*elements::findKind("fogBank"), "Bank");
        scene::Track track;
        track.keys = {scene::keyAt(1, 0.0, scene::Way::Linear), scene::keyAt(101, 2.0, scene::Way::Linear)};
        bank.set("driftHeading", 90.0);
        bank.setTrack("driftSpeed", track);
        p.frame = 101;
        Store store;
        JobControl job;
        const Vec3 keyed = elements::freeze(p, store, job)->media.at(0).noise.offset;
        QVERIFY2(std::abs(keyed.x - 4.f) < 0.01f && std::abs(keyed.z) < 1e-3f, qPrintable(QString::number(keyed.x)));
        // Carried by a wind: its mean at the bank's middle.
        scene::Element& gale = p.add(*elements::findKind("wind"), "Gale");
        gale.set("speed", 5.0);
        p.find("bank")->set("wind", std::string("gale"));
        const auto shot = elements::freeze(p, store, job);
        QVERIFY((shot->media.at(0).noise.offset - shot->airflow.winds.at(0).mean(1.5f) * 4.f).length() < 1e-3f);
    }

    void theCommandLineBakesListsAndPurges()
    {
        const fs::path home = inside("cli");
        fs::create_directories(home);
        const fs::path file = home / "windy.hygros";
        scene::saveProject(windy(), file);
        const QString project = QString::fromStdString(file.string());
        QVERIFY(run({"render", project, "--out", project + ".png", "--size", "64x36", "--samples", "1"})
                    .contains("dots: 1 missing"));
        QVERIFY(run({"bake", project, "--frames", "1-4"}).contains("dots: 4 frames baked"));
        QVERIFY(run({"bake", project}).contains("dots: 8 frames baked, after 4 that were fresh"));
        QVERIFY(run({"bake", project}).contains("nothing to do, 12 frames are fresh"));
        QVERIFY(run({"bake", project, "--list"}).contains("1-12 fresh"));
        // Moved with its folder it is still fresh.
        const fs::path elsewhere = inside("elsewhere");
        fs::rename(home, elsewhere);
        const QString moved = QString::fromStdString((elsewhere / "windy.hygros").string());
        QVERIFY(run({"bake", moved, "--list"}).contains("1-12 fresh"));
        int code = 0;
        QVERIFY(run({"bake", moved, "--element", "sun"}, &code).contains("a Sun and sky is not simulated") ||
                run({"bake", moved, "--element", "sun"}).contains("is not simulated"));
        QCOMPARE(code, 2);
        QVERIFY(run({"bake", moved, "--frames", "1-400"}, &code).contains("the project has frames 1 to 12"));
        QCOMPARE(code, 2);
        QVERIFY(run({"bake", moved, "--purge"}).contains("removed"));
        QVERIFY(!fs::exists(elsewhere / "windy.baked"));
    }

    void aPlumeThatWasKilledComesToTheSame()
    {
        // One that keeps to its preview: both go on from what was kept.
        scene::Project p = elements::newProject();
        p.time.last = 30;
        scene::Element& plume = p.add(*elements::findKind("plume"), "Plume");
        plume.set("position", Vec3(0.f));
        plume.set("size", Vec3(1.2f, 1.6f, 1.2f));
        plume.set("voxel", 0.05);
        plume.set("detail", std::string("shot"));
        scene::Element& feed = p.add(*elements::findKind("feed"), "Coals");
        feed.set("plume", std::string("plume"));
        feed.set("temperature", 1300.0);
        for (const char* name : {"whole", "stopped"}) {
            fs::create_directories(inside(name));
            scene::saveProject(p, inside(name) / "fire.hygros");
        }
        const auto file = [&](const char* name) {
            return QString::fromStdString((inside(name) / "fire.hygros").string());
        };
        FrameStore stopped(inside("stopped") / "fire.baked"), whole(inside("whole") / "fire.baked");
        QProcess process;
        process.start(CLI, {"bake", file("stopped")});
        QVERIFY(process.waitForStarted());
        QTRY_VERIFY_WITH_TIMEOUT(fs::exists(stopped.fileOf("plume", 5)), 60000);
        ::kill(static_cast<pid_t>(process.processId()), SIGKILL);
        process.waitForFinished();
        const int last = stopped.contents().at(0).frames.back();
        QVERIFY(last < 30);
        const QString said = run({"bake", file("stopped")});
        QVERIFY2(said.contains(QString("after %1 that were fresh").arg(last)), qPrintable(said));
        QVERIFY(run({"bake", file("whole")}).contains("30 frames baked"));
        for (const int frame : {1, last, last + 1, 30}) {
            const Payload a = whole.read("plume", frame), b = stopped.read("plume", frame);
            QVERIFY2(std::equal(a.bytes().begin(), a.bytes().end(), b.bytes().begin(), b.bytes().end()),
                     qPrintable(QString("frame %1 after a stop at %2").arg(frame).arg(last)));
        }
    }

    void killedWhileBakingItGoesOnAtTheLastWholeFrame()
    {
        const fs::path home = inside("killed");
        fs::create_directories(home);
        const fs::path file = home / "windy.hygros";
        scene::Project p = windy();
        p.time.last = 4000;
        p.find("dots")->set("count", std::int64_t{3000});
        scene::saveProject(p, file);
        FrameStore frames(home / "windy.baked");
        QProcess process;
        process.start(CLI, {"bake", QString::fromStdString(file.string())});
        QVERIFY(process.waitForStarted());
        QTRY_VERIFY_WITH_TIMEOUT(fs::exists(frames.fileOf("dots", 20)), 60000);
        ::kill(static_cast<pid_t>(process.processId()), SIGKILL);
        process.waitForFinished();
        const auto contents = frames.contents();
        QCOMPARE(contents.size(), std::size_t{1});
        const int last = contents[0].frames.back();
        QVERIFY(last < 4000);
        for (const int frame : contents[0].frames)
            frames.read("dots", frame); // none is torn
        const QString said = run(
            {"bake", QString::fromStdString(file.string()), "--frames", QString("1-%1").arg(last + 3)});
        QVERIFY2(said.contains(QString("3 frames baked, after %1 that were fresh").arg(last)), qPrintable(said));
    }
};
QTEST_APPLESS_MAIN(TestBake)
#include "test_bake.moc"
