#pragma once
/// What the window tests share: the application's settings and look, waiting for the clean picture, a drag.
#include "app/main_window.h"
#include "app/theme.h"
#include "support.h"

namespace hygros::test {

inline void prepareApplication()
{
    QCoreApplication::setOrganizationName("hygros-tests");
    QStandardPaths::setTestModeEnabled(true);
    app::applyTheme();
}
/// False when the picture is not clean within a minute and a half.
inline bool settle(app::Session& session)
{
    for (int i = 0; i < 4500; ++i) {
        if (session.isSettled())
            return true;
        QTest::qWait(20);
    }
    return false;
}
inline void drag(QWidget& w, QPointF from, QPointF to)
{
    QTest::mousePress(&w, Qt::LeftButton, {}, from.toPoint());
    for (int i = 1; i <= 5; ++i)
        QTest::mouseMove(&w, (from + (to - from) * i / 5).toPoint());
    QTest::mouseRelease(&w, Qt::LeftButton, {}, to.toPoint());
}
} // namespace hygros::test
