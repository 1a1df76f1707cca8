#pragma once
/// What the window tests share: the application's settings and look, waiting for the clean picture, a drag.
#include "app/lead_ruler.h"
#include "app/main_window.h"
#include "app/theme.h"
#include "support.h"

#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMenuBar>
#include <QPushButton>
#include <QSettings>

namespace hygros::test {

inline void prepareApplication()
{
    QCoreApplication::setOrganizationName("hygros-tests");
    QStandardPaths::setTestModeEnabled(true);
    app::applyTheme();
    // The march alone, so that pictures can be held against each other to a hundredth.
    QSettings().setValue("followPaths", false);
}
/// False when the picture is not clean within a minute and a half, or a quarter of an hour under a watcher.
inline bool settle(app::Session& session)
{
    for (int i = 0; i < (watched ? 45000 : 4500); ++i) {
        if (session.picture().isSettled())
            return true;
        QTest::qWait(20);
    }
    return false;
}
/// An entry of a menu by how its text begins; null when there is none.
inline QAction* menuAction(app::MainWindow& window, const char* menu, const QString& text)
{
    for (QAction* m : window.menuBar()->actions())
        if (m->text() == menu)
            for (QAction* a : m->menu()->actions())
                if (a->text().startsWith(text))
                    return a;
    return nullptr;
}
/// Clicks the visible button of that name.
inline bool pressButton(app::MainWindow& window, const char* name)
{
    // New cards are shown, and old ones gone, only after their events.
    QTest::qWait(30);
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    for (auto* button : window.findChildren<QPushButton*>(name))
        if (button->isVisible()) {
            QTest::mouseClick(button, Qt::LeftButton);
            return true;
        }
    return false;
}
/// Whether any label says so.
inline bool isTold(const app::MainWindow& window, const QString& words)
{
    const auto labels = window.findChildren<QLabel*>();
    return std::any_of(labels.begin(), labels.end(),
                       [&](const QLabel* label) { return label->text().contains(words); });
}
/// Takes the recipe of that name; false where there is none.
inline bool take(app::Session& session, const QString& recipe)
{
    for (const scene::Recipe& r : session.library().recipes())
        if (r.name == recipe.toStdString()) {
            session.take(r);
            return true;
        }
    return false;
}
/// Types a value into the visible ruler of a parameter.
inline bool typeInto(app::MainWindow& window, const char* parameter, const QString& value)
{
    QTest::qWait(30);
    for (auto* ruler : window.findChildren<app::LeadRuler*>(parameter))
        if (ruler->isVisible()) {
            QTest::mouseClick(ruler, Qt::LeftButton, {}, QPoint(ruler->width() - 12, 10));
            auto* field = ruler->findChild<QLineEdit*>();
            if (!field)
                return false;
            QTest::keyClick(field, Qt::Key_A, Qt::ControlModifier);
            QTest::keyClicks(field, value);
            QTest::keyClick(field, Qt::Key_Return);
            return true;
        }
    return false;
}
/// Where a place of the world is seen in the Picture; null where it is not.
inline QPoint pixelOf(app::Session& session, const QWidget& picture, const Vec3& world)
{
    const geometry::View view(session.picture().camera(), picture.width(), picture.height());
    Vec2 p;
    float depth = 0.f;
    return view.project(world, p, depth) ? QPoint(static_cast<int>(p.x), static_cast<int>(p.y)) : QPoint();
}
inline void drag(QWidget& w, QPointF from, QPointF to)
{
    QTest::mousePress(&w, Qt::LeftButton, {}, from.toPoint());
    for (int i = 1; i <= 5; ++i)
        QTest::mouseMove(&w, (from + (to - from) * i / 5).toPoint());
    QTest::mouseRelease(&w, Qt::LeftButton, {}, to.toPoint());
}
} // namespace hygros::test
