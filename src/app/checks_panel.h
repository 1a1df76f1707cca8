#pragma once
/// The list of Checks: what, where, why, and what mends it; it opens under its word in the menu's line.
#include "app/session.h"

#include <QFrame>

class QVBoxLayout;

namespace hygros::app {

class ChecksPanel : public QFrame {
    Q_OBJECT
public:
    explicit ChecksPanel(Session& session, QWidget* parent = nullptr);
    /// Under a place of the screen, at its right edge.
    void openAt(const QPoint& topRight);

Q_SIGNALS:
    void wanted(const QString& element); ///< its card

private:
    void fill();
    Session& session_;
    QWidget* list_;
    QVBoxLayout* column_;
};
} // namespace hygros::app
