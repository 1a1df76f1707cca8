/// hygros-edit-loop PROJECT SEED: opens a project and goes on editing, keying, keeping proofs, playing, baking and
/// saving it until it is killed; says what it does, a line each: "edit N", "saved N". For kill_check.py.
#include "app/session.h"
#include "elements/bake.h"

#include <QApplication>
#include <QStandardPaths>
#include <cstdio>
#include <random>

using namespace hygros;

int main(int argc, char** argv)
{
    QApplication application(argc, argv);
    QApplication::setOrganizationName("hygros-tests");
    QApplication::setApplicationName("hygros");
    app::Session session;
    const QString file = argv[1];
    std::mt19937 random(static_cast<unsigned>(std::atoi(argv[2])));
    session.picture().setSize({64, 40});
    session.picture().setWantedSamples(1);
    session.openAtStart(file);
    int n = 0;
    const auto say = [](const char* what, int number) {
        std::printf("%s %d\n", what, number);
        std::fflush(stdout);
    };
    QTimer timer;
    QObject::connect(&timer, &QTimer::timeout, &session, [&] {
        if (session.jobs().isBusy() || session.document().file().isEmpty())
            return;
        ++n;
        session.document().edit("edit", [&](scene::Project& p) {
            p.name = "edit " + std::to_string(n);
            if (random() % 7 == 0 && p.elements.size() < 40)
                p.add(*elements::findKind("fogBank"), "bank");
            for (scene::Element& e : p.elements)
                if (scene::findParameter(e.kind->parameters, "visibility"))
                    e.set("visibility", 100.0 + static_cast<double>(random() % 5000));
            for (const char* kind : {"wind", "tracers"}) // what is baked of one another
                if (std::none_of(p.elements.begin(), p.elements.end(),
                                 [&](const scene::Element& e) { return e.kind->id == kind; }))
                    p.add(*elements::findKind(kind), kind);
        });
        say("edit", n);
        if (random() % 6 == 0 && session.proofs().keep() && session.proofs().all().size() > 6)
            session.proofs().forget(session.proofs().all().front());
        if (random() % 9 == 0)
            for (const std::string& id : elements::simulated(session.project()))
                random() % 2 ? session.baker().again(id) : session.baker().bake(id);
        if (random() % 13 == 0)
            session.player().toggle();
        if (random() % 25 == 0 && session.document().save(file))
            say("saved", n);
        timer.setInterval(10 + static_cast<int>(random() % 80));
    });
    timer.start(20);
    return QApplication::exec();
}
