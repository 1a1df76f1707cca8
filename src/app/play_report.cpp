#include "app/play_report.h"

#include "app/bench.h"
#include "app/card_column.h"
#include "app/main_window.h"
#include "app/picture_view.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QEventLoop>
#include <QMouseEvent>
#include <QWheelEvent>
#include <set>

namespace hygros::app {
namespace {
/// Which frames the Picture began to draw, and whether in their own time.
class Watch : public QObject {
public:
    Watch(MainWindow& window, int first, int length)
        : document_(window.session().document()), player_(window.session().player()), first_(first), length_(length),
          from_(due())
    {
        window.picture().installEventFilter(this);
    }
    int due() const { return static_cast<int>(player_.due()); }
    int passed() const { return due() - from_ - 1; } // the first and the last are not whole
    int onTime() const { return static_cast<int>(std::distance(seen_.begin(), seen_.lower_bound(due()))); }

protected:
    bool eventFilter(QObject* watched, QEvent* event) override
    {
        if (event->type() == QEvent::Paint) {
            const int on = due();
            if (on > from_ && document_.frame() == first_ + on % length_)
                seen_.insert(on);
        }
        return QObject::eventFilter(watched, event);
    }

private:
    Document& document_;
    Player& player_;
    int first_, length_, from_;
    std::set<int> seen_;
};

/// What somebody does who looks around while it plays; one thing a call.
void use(MainWindow& window, int step)
{
    PictureView& picture = window.picture();
    const QPointF at(0.1 * picture.width() * (1 + step % 8), 0.15 * picture.height() * (1 + step % 5));
    QMouseEvent move(QEvent::MouseMove, at, picture.mapToGlobal(at), Qt::NoButton, Qt::NoButton, Qt::NoModifier);
    QApplication::sendEvent(&picture, &move);
    using F = scene::Family;
    constexpr F families[] = {F::Air, F::Lights, F::Set, F::Finish};
    if (step % 5 == 1)
        window.chooseFamily(families[step / 5 % 4]);
    const QStringList pages = window.bench().pages();
    if (step % 5 == 3)
        window.bench().showPage(pages[step / 5 % pages.size()]);
    const QPointF on(window.column().width() / 2.0, window.column().height() / 2.0);
    if (QWidget* under = window.column().childAt(on.toPoint())) {
        QWheelEvent wheel(under->mapFrom(&window.column(), on), window.column().mapToGlobal(on), QPoint(),
                          QPoint(0, step % 2 ? -120 : 120), Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase, false);
        QApplication::sendEvent(under, &wheel);
    }
}
} // namespace

void waited(int milliseconds)
{
    QEventLoop loop;
    QTimer::singleShot(milliseconds, Qt::PreciseTimer, &loop, &QEventLoop::quit);
    loop.exec();
}

PlayReport reportPlay(MainWindow& window, int frames, int seconds)
{
    Session& session = window.session();
    Document& document = session.document();
    for (int i = 0; i < 1200 && (document.file().isEmpty() || session.jobs().isBusy()); ++i)
        waited(50); // it is being opened
    if (document.file().isEmpty())
        return {};
    scene::TimeSettings time = document.project().time;
    time.last = time.first + frames - 1;
    document.setTime(time, "Frames");
    document.setFrame(time.first);
    KeptRun& run = session.keptRun();
    run.draw(1);
    while (run.isDrawing())
        waited(50);
    for (int i = 0; i < 100 && !run.isWhole(); ++i)
        waited(50);
    if (!run.isWhole())
        return {};
    session.player().play();
    Watch watch(window, time.first, frames);
    QElapsedTimer clock;
    clock.start();
    for (int step = 0; clock.elapsed() < 1000 * seconds; ++step) {
        waited(110);
        use(window, step);
    }
    const PlayReport out{watch.passed(), watch.onTime()};
    session.player().stop();
    return out;
}
} // namespace hygros::app
