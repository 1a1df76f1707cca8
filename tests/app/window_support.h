#pragma once
/// What the window tests share: the application's settings and look, waiting for the clean picture, a drag.
#include "app/main_window.h"
#include "app/theme.h"
#include "support.h"

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
