/// hygros [PROJECT] [--screenshot FILE [--samples N]] [--report-start]
#include "app/add_place.h"
#include "app/bench.h"
#include "app/bracket_view.h"
#include "app/checks_panel.h"
#include "app/main_window.h"
#include "app/match_dialog.h"
#include "app/picture_view.h"
#include "app/play_report.h"
#include "app/preferences_dialog.h"
#include "app/sounding_view.h"
#include "app/theme.h"
#include "app/transect_view.h"
#include "app/words.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QFile>
#include <QPainter>
#include <QPixmap>
#include <QPushButton>
#include <QTimer>
#include <algorithm>
#include <clocale>
#include <cstdio>
#include <ctime>
#include <unistd.h>

namespace {
/// How long the process has existed, with the linking of its libraries [ms, to 10].
double sinceProcessBegan()
{
    QFile file("/proc/self/stat");
    if (!file.open(QIODevice::ReadOnly))
        return 0.0;
    // The 22nd field, counted after the name, which may hold anything but ends with the last bracket (proc(5)).
    const QByteArray line = file.readAll();
    const double begun = line.mid(line.lastIndexOf(')') + 2).split(' ').value(19).toDouble();
    timespec now{};
    ::clock_gettime(CLOCK_BOOTTIME, &now);
    return 1e3 * (double(now.tv_sec) + 1e-9 * double(now.tv_nsec) - begun / double(::sysconf(_SC_CLK_TCK)));
}

/// The window with what stands open over it.
QPixmap seenWith(hygros::app::MainWindow& window)
{
    QPixmap all = window.grab();
    QDialog* place = window.findChild<hygros::app::AddPlace*>();
    for (QDialog* dialog : window.findChildren<QDialog*>())
        if (!place && dialog->isVisible())
            place = dialog;
    if (place) {
        const QPixmap over = place->grab();
        const QPoint at((all.width() - over.width()) / 2, (all.height() - over.height()) / 2);
        QPainter p(&all);
        p.fillRect(all.rect(), QColor(0, 0, 0, 110));
        p.drawPixmap(at, over);
        p.setPen(QColor(0, 0, 0, 160));
        p.drawRect(QRect(at, over.size()));
    }
    if (auto* panel = window.findChild<hygros::app::ChecksPanel*>(); panel && panel->isVisible())
        QPainter(&all).drawPixmap(window.mapFromGlobal(panel->pos()), panel->grab());
    return all;
}
} // namespace

int main(int argc, char** argv)
{
    using namespace hygros::app;
    if (!__builtin_cpu_supports("avx2") || !__builtin_cpu_supports("fma")) {
        std::fputs("Hygros needs a processor with AVX2 and FMA (x86-64-v3).\n", stderr);
        return 3;
    }
    QApplication::setOrganizationName("hygros");
    QApplication::setApplicationName("hygros");
    const Choices choices = Choices::now();
    if (choices.scale != 100 && !qEnvironmentVariableIsSet("QT_SCALE_FACTOR"))
        qputenv("QT_SCALE_FACTOR", QByteArray::number(choices.scale / 100.0));
    QApplication application(argc, argv);
    // Qt takes the desktop's language for the C library too; files and the libraries that read them want points.
    std::setlocale(LC_NUMERIC, "C");
    QApplication::setApplicationVersion(HYGROS_VERSION);
    QCommandLineParser parser;
    parser.setApplicationDescription("Air, fog and light for 3D scenes.");
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument("project", "project to open");
    const QCommandLineOption shot("screenshot", "Wait for a clean picture, save the window to <file> and quit.",
                                  "file");
    const QCommandLineOption samples("samples", "Samples of a clean picture.", "count",
                                     QString::number(choices.samples));
    const QCommandLineOption family("family", "Family of cards to show.", "name", "Air");
    const QCommandLineOption unfold("unfold", "Card to unfold.", "element");
    const QCommandLineOption chosen("choose", "Elements to choose together.", "id,id");
    const QCommandLineOption report(
        "report-start", "Print milliseconds to the first picture and resident memory once clean, then quit.");
    const QCommandLineOption play(
        "report-play",
        "Play 25 kept frames for <seconds> with the window in use, print how many came on time, then quit.", "seconds");
    const QCommandLineOption page("bench", "Page of the Bench to show.", "name", "Transect");
    const QCommandLineOption pin("pin", "Drop a pin at x,y (shares of the picture).", "x,y");
    const QCommandLineOption show(
        "show", "Picture to show: live, both or reference; a screenshot waits for the reference's paths.", "which",
        "live");
    const QCommandLineOption paths("paths", "Paths a pixel of the reference to wait for.", "count", "64");
    const QCommandLineOption adding("add",
                                    "Open the place where things are added; a screenshot waits for its pictures.");
    const QCommandLineOption bake("bake", "Begin to bake an element before the screenshot.", "element");
    const QCommandLineOption slice("slice", "What the Transect slices of a plume: temperature, smoke, speed, ….",
                                   "name");
    const QCommandLineOption against(
        "against", "Keep a proof, set these, and hold the picture against it: PATH=VALUE;PATH=VALUE.", "settings");
    const QCommandLineOption by("by", "How: wipe, difference or beside.", "way", "wipe");
    const QCommandLineOption checks("checks", "Open the list of Checks.");
    const QCommandLineOption bracket("bracket", "Step a setting; a screenshot waits for its pictures.", "path");
    const QCommandLineOption why("why", "Of the pin: why it is dark or bright.");
    const QCommandLineOption zoom("zoom", "Enlarge: times,x,y (shares of the picture).", "times,x,y");
    const QCommandLineOption start("start", "Show the first page.");
    const QCommandLineOption bright("light", "Light panels, for this time.");
    const QCommandLineOption preferences("preferences", "Open the preferences, at a page.", "page");
    const QCommandLineOption language("language", "Language of the window, for this time.", "code");
    const QCommandLineOption photograph("match", "Match the picture to a photograph.", "file");
    parser.addOptions({photograph, play});
    parser.addOptions({start, bright, why,     zoom,   preferences, bracket, checks, against, by,  slice, adding,
                       bake,  shot,   samples, family, unfold,      chosen,  report, page,    pin, show,  paths});
    parser.addOption(language);
    parser.process(application);
    speak(parser.isSet(language) ? parser.value(language) : choices.language);
    Theme::useLight(choices.light || parser.isSet(bright));
    apply(choices);
    applyTheme();
    MainWindow window;
    window.session().picture().setWantedSamples(parser.value(samples).toInt());
    const bool alone = parser.isSet(shot) || parser.isSet(report) || parser.isSet(play); // nobody is there to be asked
    const QString project = parser.positionalArguments().value(0);
    if (alone && !project.isEmpty())
        window.session().openAtStart(project);
    window.show();
    if (!alone)
        QTimer::singleShot(0, &window, [&window, project] {
            if (window.offerRecovery())
                return;
            if (!project.isEmpty())
                window.session().openAtStart(project);
            else if (!Choices::now().firstShown)
                window.showFirstPage();
        });
    for (const auto f : {hygros::scene::Family::Lights, hygros::scene::Family::Fire, hygros::scene::Family::Weather,
                         hygros::scene::Family::Water, hygros::scene::Family::Set, hygros::scene::Family::Finish})
        if (parser.value(family) == QString::fromStdString(hygros::scene::familyName(f)))
            window.chooseFamily(f);
    window.bench().showPage(parser.value(page));
    if (parser.value(show) == "both" || parser.value(show) == "reference")
        window.session().reference().setShown(parser.value(show) == "both" ? Reference::Shown::Both
                                                                           : Reference::Shown::Reference);
    window.sounding().setWhy(parser.isSet(why));
    int status = 0;
    if (parser.isSet(play)) {
        QObject::connect(&window.session(), &Session::failed, &application, [](const QString& what) {
            std::fprintf(stderr, "hygros: %s\n", qPrintable(what));
            QApplication::exit(2);
        });
        QTimer::singleShot(0, &window, [&] {
            const PlayReport told = reportPlay(window, 25, std::clamp(parser.value(play).toInt(), 1, 600));
            std::printf("framesDue %d\nframesOnTime %d\n", told.due, told.onTime);
            QApplication::exit(told.due > 0 ? 0 : 2);
        });
        return QApplication::exec();
    }
    if (parser.isSet(shot) || parser.isSet(report)) {
        QObject::connect(&window.session(), &Session::failed, &application, [&](const QString& what) {
            std::fprintf(stderr, "hygros: %s\n", qPrintable(what));
            status = 2;
            QApplication::quit();
        });
        bool first = true, over = false, kept = false;
        const auto finished = [&] {
            const Session& session = window.session();
            if (over || !session.picture().state().clean ||
                (session.reference().shown() != Reference::Shown::Live && !session.reference().state().done &&
                 session.reference().state().paths < parser.value(paths).toDouble()))
                return;
            if (parser.isSet(against) && !std::exchange(kept, true)) {
                Session& all = window.session();
                const auto proof = all.proofs().keep("Before");
                all.document().edit("Settings", [&](hygros::scene::Project& p) {
                    for (const QString& one : parser.value(against).split(';', Qt::SkipEmptyParts))
                        p.setPath(one.section('=', 0, 0).toStdString(), one.section('=', 1).toStdString());
                });
                all.compare().withProof(proof);
                all.compare().setBy(parser.value(by) == "beside"       ? Compare::By::Beside
                                    : parser.value(by) == "difference" ? Compare::By::Difference
                                                                       : Compare::By::Wipe);
                window.bench().showPage(parser.isSet(page) ? parser.value(page) : "Proofs");
                return;
            }
            over = true;
            if (parser.isSet(bake))
                window.session().baker().bake(parser.value(bake).toStdString());
            if (parser.isSet(adding)) {
                window.showAddPlace();
                const auto* place = window.findChild<hygros::app::AddPlace*>();
                for (int i = 0; i < 1200 && !place->pictures().isDone(); ++i)
                    waited(100);
            }
            if (parser.isSet(bracket)) {
                const QStringList stepped = parser.value(bracket).split(',');
                window.showBracket(stepped[0].toStdString());
                if (stepped.size() > 1)
                    window.findChild<hygros::app::SettingBox*>("acrossSetting")->setPath(stepped[1].toStdString());
                for (int i = 0; i < 1200 && !window.session().bracket().isDone(); ++i)
                    waited(100);
            }
            // A moment more for the thumbnails.
            QTimer::singleShot(1200, &application, [&] {
                if (parser.isSet(start)) {
                    window.showFirstPage();
                    waited(200);
                }
                if (parser.isSet(preferences)) {
                    window.showPreferences();
                    window.findChild<hygros::app::PreferencesDialog*>()->showPage(parser.value(preferences).toInt());
                    waited(200);
                }
                if (parser.isSet(photograph)) {
                    auto* dialog = new hygros::app::MatchDialog(window.session(), &window);
                    dialog->usePhotograph(parser.value(photograph));
                    dialog->open();
                    dialog->findChild<QPushButton*>("matchGo")->click();
                    for (int i = 0; i < 1200 && !dialog->found(); ++i)
                        waited(100);
                }
                if (parser.isSet(checks)) {
                    window.findChild<QPushButton*>("checks")->click();
                    waited(200);
                }
                if (parser.isSet(report)) {
                    long pages = 0, resident = 0;
                    if (FILE* f = std::fopen("/proc/self/statm", "r")) {
                        if (std::fscanf(f, "%ld %ld", &pages, &resident) != 2)
                            resident = 0;
                        std::fclose(f);
                    }
                    std::printf("residentMB %ld\n", resident * 4096 / 1000000);
                }
                if (parser.isSet(shot) && !seenWith(window).save(parser.value(shot))) {
                    std::fprintf(stderr, "hygros: cannot write %s\n", qPrintable(parser.value(shot)));
                    status = 3;
                }
                QApplication::exit(status); // no window asks whether to save
            });
        };
        QObject::connect(&window.session().reference(), &Reference::referenceChanged, &application, finished);
        QObject::connect(&window.session().picture(), &Picture::pictureChanged, &application, [&, finished] {
            if (window.session().document().file().isEmpty())
                return; // that was the empty project the window starts with
            if (first && parser.isSet(report))
                std::printf("firstPictureMs %.0f\n", sinceProcessBegan());
            if (first && parser.isSet(zoom)) {
                const QStringList all = parser.value(zoom).split(',');
                first = false;
                window.session().picture().setZoom(all[0].toInt(),
                                                   {all.value(1, "0.5").toDouble(), all.value(2, "0.5").toDouble()});
                return;
            }
            if (first && parser.isSet(unfold))
                window.unfold(parser.value(unfold).toStdString());
            if (first && parser.isSet(chosen)) {
                std::vector<std::string> ids;
                for (const QString& id : parser.value(chosen).split(',', Qt::SkipEmptyParts))
                    if (window.session().document().project().find(id.toStdString()))
                        ids.push_back(id.toStdString());
                window.session().selection().setChosen(ids);
            }
            if (first && parser.isSet(slice))
                window.transect().setSlice(hygros::app::TransectView::qualityNamed(parser.value(slice)));
            if (first && parser.isSet(pin)) {
                const QStringList xy = parser.value(pin).split(',');
                window.session().readings().addPin(QPointF(xy.value(0).toDouble(), xy.value(1).toDouble()));
            }
            first = false;
            finished();
        });
        QApplication::exec();
        return status;
    }
    QApplication::exec();
    return status;
}
