/// What is kept in memory: by content, within bounds, made once.
#include "base/store.h"
#include "media/vdb.h"
#include "support.h"

#include <QTemporaryDir>
#include <atomic>
#include <fstream>
#include <latch>
#include <thread>

using namespace hygros;

namespace {
struct Number {
    int n;
    bool operator==(const Number&) const = default;
};
struct Other {
    int n;
    bool operator==(const Other&) const = default;
};
using Bytes = std::vector<char>;
std::shared_ptr<const Bytes> megabytes(std::size_t n) { return std::make_shared<const Bytes>(n << 20); }
} // namespace

class TestStore : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void whatIsKeptIsMadeOnceForEachKey()
    {
        Store store;
        int made = 0;
        const auto square = [&](int n) {
            return *store.get(Number{n}, [&] { return ++made, std::make_shared<const int>(n * n); });
        };
        QCOMPARE(square(3), 9);
        QCOMPARE(square(3), 9);
        QCOMPARE(square(4), 16);
        QCOMPARE(made, 2);
        // Keys of another type are others, whatever they hold.
        QCOMPARE(*store.get(Other{3}, [] { return std::make_shared<const int>(-1); }), -1);
        QCOMPARE(*store.atHand<int>(Number{4}), 16);
        QVERIFY(!store.atHand<int>(Number{5}));
        QCOMPARE(store.count(), std::size_t{3});
        store.clear();
        QVERIFY(!store.atHand<int>(Number{4}));
        QCOMPARE(store.bytes(), std::size_t{0});
    }

    void theLeastRecentlyUsedGoesFirst()
    {
        Store store(10 << 20);
        int made = 0;
        const auto ask = [&](int n) { store.get(Number{n}, [&] { return ++made, megabytes(3); }); };
        for (const int n : {1, 2, 3})
            ask(n);
        ask(1);
        ask(4); // 2 goes
        QCOMPARE(made, 4);
        QVERIFY(store.bytes() <= store.limit());
        for (const int n : {1, 3, 4})
            QVERIFY(store.atHand<Bytes>(Number{n}));
        QVERIFY(!store.atHand<Bytes>(Number{2}));
        // Something larger than the bound is still handed out, alone.
        QCOMPARE(store.get(Number{9}, [] { return megabytes(30); })->size(), std::size_t{30} << 20);
        QCOMPARE(store.count(), std::size_t{1});
        store.setLimit(1);
        QCOMPARE(store.count(), std::size_t{1}); // the newest stays
    }

    void whatWentIsFoundAgainWhileSomebodyHoldsIt()
    {
        Store store(4 << 20);
        int made = 0;
        const auto ask = [&](int n) { return store.get(Number{n}, [&] { return ++made, megabytes(3); }); };
        const auto held = ask(1);
        ask(2);
        QVERIFY(!store.atHand<Bytes>(Number{2}) || store.count() == 1);
        QCOMPARE(ask(1), held);
        QCOMPARE(made, 2);
    }

    void threadsThatAskForOneKeyWaitForOneMaker()
    {
        Store store;
        std::atomic<int> made = 0, sum = 0;
        std::latch start(8);
        std::vector<std::jthread> threads;
        for (int i = 0; i < 8; ++i)
            threads.emplace_back([&] {
                start.arrive_and_wait();
                sum += *store.get(Number{7}, [&] {
                    std::this_thread::sleep_for(std::chrono::milliseconds(80));
                    return ++made, std::make_shared<const int>(7);
                });
            });
        threads.clear();
        QCOMPARE(made.load(), 1);
        QCOMPARE(sum.load(), 56);
    }

    void whenOneMakerFailsTheNextMakesIt()
    {
        Store store;
        std::atomic<bool> first = true;
        std::atomic<int> good = 0, bad = 0;
        std::vector<std::jthread> threads;
        for (int i = 0; i < 4; ++i)
            threads.emplace_back([&] {
                try {
                    store.get(Number{1}, [&] {
                        std::this_thread::sleep_for(std::chrono::milliseconds(40));
                        if (first.exchange(false))
                            throw std::runtime_error("not this time");
                        return std::make_shared<const int>(1);
                    });
                    ++good;
                } catch (const std::runtime_error&) {
                    ++bad;
                }
            });
        threads.clear();
        QCOMPARE(good.load(), 3);
        QCOMPARE(bad.load(), 1);
    }

    void waitingForAnotherMakerCanBeCancelled()
    {
        Store store;
        std::latch making(1), go(1);
        std::jthread maker([&] {
            store.get(Number{1}, [&] {
                making.count_down();
                go.wait();
                return std::make_shared<const int>(1);
            });
        });
        making.wait();
        JobControl job;
        job.cancel();
        bool cancelled = false;
        try {
            store.get(
                Number{1}, [] { return std::make_shared<const int>(2); }, &job);
        } catch (const Cancelled&) {
            cancelled = true;
        }
        go.count_down();
        maker.join();
        QVERIFY(cancelled);
        QCOMPARE(*store.atHand<int>(Number{1}), 1);
    }

    void anIdentityOwnsNothingAndIsNeverTakenForALaterOne()
    {
        auto one = std::make_shared<const Bytes>(10);
        const std::weak_ptr<const Bytes> seen = one;
        const Identity a(one), again(one);
        QVERIFY(a == again);
        one.reset();
        QVERIFY(seen.expired());
        for (int i = 0; i < 50; ++i) {
            const auto later = std::make_shared<const Bytes>(10);
            QVERIFY(!(Identity(later) == a));
        }
    }

    void aFilesVersionChangesWithItsContent()
    {
        const QTemporaryDir dir;
        const std::filesystem::path file = dir.filePath("a.txt").toStdString();
        const auto write = [&](const char* text) { std::ofstream(file) << text; };
        write("one");
        const FileVersion was = versionOf(file);
        QVERIFY(was == versionOf(file));
        const auto time = std::filesystem::last_write_time(file);
        std::this_thread::sleep_for(std::chrono::milliseconds(20));
        write("two"); // as long, and with its age set back
        std::filesystem::last_write_time(file, time);
        QVERIFY(versionOf(file) != was);
        std::filesystem::remove(file);
        QCOMPARE(versionOf(file).size, std::uintmax_t{0});
        QVERIFY(versionOf(file) != was);
    }

    void aSequenceStaysWithinTheBound()
    {
        // Sixteen frames of a cloud, each with its shadow, within what three of them need.
        const QTemporaryDir dir;
        JobControl job;
        for (int f = 1; f <= 16; ++f) {
            std::vector<float> values(64 * 64 * 64);
            for (std::size_t i = 0; i < values.size(); ++i)
                values[i] = 0.5f + 0.5f * std::sin(float(i % 977) + float(f));
            media::writeVdb(dir.filePath(QString("c.%1.vdb").arg(f, 4, 10, QChar('0'))).toStdString(),
                            {{"density", {0, 0, 0}, {64, 64, 64}, values, false}}, Mat4(), job);
        }
        scene::Project p = elements::newProject();
        p.folder = dir.path().toStdString();
        scene::Element& e = p.add(*elements::findKind("volume"), "cloud");
        e.set("file", std::string("c.0001.vdb"));
        e.set("sequence", true);
        Store store(std::size_t{12} << 20);
        std::weak_ptr<const media::BrickGrid> first;
        std::size_t most = 0;
        for (p.frame = 1; p.frame <= 16; ++p.frame) {
            const auto shot = elements::freeze(p, store, job);
            QVERIFY(!shot->volumes.empty());
            if (p.frame == 1)
                first = shot->volumes[0].density;
            most = std::max(most, store.bytes());
        }
        QVERIFY2(most <= store.limit(), qPrintable(QString::number(most)));
        QVERIFY(first.expired()); // nothing else holds on to it
    }

    void aSetIsReadAnewWhenAPictureBesideItChanges()
    {
        const QTemporaryDir dir;
        const auto path = [&](const char* name) { return dir.filePath(name).toStdString(); };
        std::ofstream(path("a.mtl")) << "newmtl one\nKd 1 0 0\n";
        std::ofstream(path("a.obj")) << "mtllib a.mtl\nusemtl one\nv 0 0 0\nv 1 0 0\nv 0 0 1\nf 1 2 3\n";
        Store store;
        JobControl job;
        const auto set = elements::keptSet(store, path("a.obj"), job);
        QCOMPARE(elements::keptSet(store, path("a.obj"), job), set);
        QCOMPARE(set->beside.size(), std::size_t{1});
        std::ofstream(path("a.mtl")) << "newmtl one\nKd 0 0 1\n#\n";
        const auto other = elements::keptSet(store, path("a.obj"), job);
        QVERIFY(other != set);
        const auto& m = other->meshes[0];
        QCOMPARE(other->materials[m.material].baseColour.z, 1.f);
        QCOMPARE(elements::keptSet(store, path("a.obj"), job), other);
    }
};

QTEST_GUILESS_MAIN(TestStore)
#include "test_store.moc"
