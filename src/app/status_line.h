#pragma once
/// Project name, and how far the picture has come: in the menu's line.
#include "app/session.h"

#include <QTimer>
#include <QWidget>

class QPushButton;

namespace hygros::app {

class ChecksPanel;

class StatusLine : public QWidget {
    Q_OBJECT
public:
    explicit StatusLine(Session& session, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {600, 26}; }

    ChecksPanel& checks() { return *panel_; }

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;

private:
    QRect cancelRect() const { return {width() - 58 - checksWide_, 0, 56, height()}; }
    int checksWide_ = 96; ///< as what it says at its longest
    Session& session_;
    ChecksPanel* panel_;
    QPushButton* checks_;
    /// What is told of: jobs, and a state that takes long to freeze.
    struct Work {
        QString name;
        double share;
        std::function<void()> cancel;
    };
    std::vector<Work> work() const;
    QTimer timer_; ///< looks whether freezing takes long
};
} // namespace hygros::app
