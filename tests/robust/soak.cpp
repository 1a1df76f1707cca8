/// hygros-soak PROJECT EDITS [SEED]: edits a project as somebody might who tries everything, each edit until its
/// picture is there: numbers and choices of any element by chance, lamps and fog that come and go, undo and redo,
/// frames, proofs. Tells the memory in use as it goes; exit code 1 where it grew by more than a twentieth from the
/// second fifth to the last (of 500 edits and more), or where the window said that something failed.
#include "app/session.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QSettings>
#include <QTemporaryDir>
#include <cstdio>
#include <fstream>
#include <malloc.h>
#include <random>
#include <unistd.h>

using namespace hygros;

namespace {
double residentMB()
{
    malloc_trim(0);
    long pages = 0, all = 0;
    std::ifstream("/proc/self/statm") >> all >> pages;
    return double(pages) * double(sysconf(_SC_PAGESIZE)) / 1e6;
}
/// Runs the window's loop until the picture is of the newest state.
bool settle(app::Session& session, int milliseconds)
{
    QElapsedTimer clock;
    clock.start();
    while (clock.elapsed() < milliseconds) {
        QApplication::processEvents(QEventLoop::AllEvents, 20);
        if (!session.jobs().isBusy() && session.picture().isSettled())
            return true;
        usleep(2000);
    }
    return false;
}
} // namespace

int main(int argc, char** argv)
{
    if (argc < 3)
        return 2;
    QTemporaryDir home;
    qputenv("XDG_DATA_HOME", home.filePath("data").toUtf8());
    qputenv("XDG_CONFIG_HOME", home.filePath("config").toUtf8());
    qputenv("XDG_CACHE_HOME", home.filePath("cache").toUtf8());
    QApplication application(argc, argv);
    QApplication::setOrganizationName("hygros-tests");
    QApplication::setApplicationName("hygros");
    app::Session session;
    int failures = 0;
    QObject::connect(&session, &app::Session::failed, &session, [&](const QString& message) {
        std::printf("failed: %s\n", qPrintable(message));
        ++failures;
    });
    session.picture().setSize({240, 136});
    session.picture().setWantedSamples(2);
    session.openAtStart(argv[1]);
    settle(session, 60000);
    std::mt19937 dice(argc > 3 ? unsigned(std::atoi(argv[3])) : 1u);
    const auto pick = [&](std::size_t below) { return std::uniform_int_distribution<std::size_t>(0, below - 1)(dice); };
    const int edits = std::atoi(argv[2]);
    const std::size_t most = session.project().elements.size() + 8;
    std::vector<double> memory;
    int late = 0;
    for (int n = 1; n <= edits; ++n) {
        switch (pick(12)) {
        case 0: session.document().undo(); break;
        case 1: session.document().redo(); break;
        case 2: {
            const scene::TimeSettings& t = session.project().time;
            session.document().setFrame(t.first + int(pick(std::size_t(t.last - t.first + 1))));
            break;
        }
        case 3:
            if (session.proofs().keep() && session.proofs().all().size() > 4)
                session.proofs().forget(session.proofs().all().front());
            break;
        case 4:
            session.document().edit("Add or remove", [&](scene::Project& p) {
                if (p.elements.size() < most)
                    p.add(*elements::findKind(pick(2) ? "fogBank" : "bulb"), "soak");
                else
                    p.remove(p.elements.back().id);
            });
            break;
        default:
            session.document().edit("Set", [&](scene::Project& p) {
                scene::Element& e = p.elements[pick(p.elements.size())];
                const scene::Parameter& q = e.kind->parameters[pick(e.kind->parameters.size())];
                if (q.type == scene::ValueType::Number && q.softMax < 1e6 && q.softMin > -1e6)
                    e.set(q.id, q.softMin + (q.softMax - q.softMin) * double(pick(1001)) / 1000.0);
                else if (q.type == scene::ValueType::Choice && !q.choices.empty())
                    e.set(q.id, q.choices[pick(q.choices.size())]);
                else if (q.type == scene::ValueType::Switch)
                    e.set(q.id, pick(2) == 1);
            });
        }
        late += !settle(session, 30000);
        if (n % std::max(1, edits / 50) == 0) {
            memory.push_back(residentMB());
            std::printf("%d edits, %.0f MB\n", n, memory.back());
            std::fflush(stdout);
        }
    }
    const auto mean = [&](double from, double to) {
        double sum = 0.0;
        int count = 0;
        for (std::size_t i = 0; i < memory.size(); ++i)
            if (const double at = (double(i) + 0.5) / double(memory.size()); at >= from && at < to)
                sum += memory[i], ++count;
        return count ? sum / count : 0.0;
    };
    const double before = mean(0.2, 0.4), after = mean(0.8, 1.0), grew = before > 0.0 ? after / before - 1.0 : 0.0;
    std::printf("%d edits, %d without a picture within 30 s, %d failures; %.0f MB, then %.0f MB: %+.1f %%\n", edits,
                late, failures, before, after, 100.0 * grew);
    std::fflush(stdout);
    return failures > 0 || late > 0 || (edits >= 500 && grew > 0.05) ? 1 : 0;
}
