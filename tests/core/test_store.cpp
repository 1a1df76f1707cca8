/// What is kept in memory: by content, within bounds, made once.
#include "base/store.h"
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
};

QTEST_GUILESS_MAIN(TestStore)
#include "test_store.moc"
