#pragma once
/// Project name, and how far the picture has come: in the menu's line.
#include "app/session.h"

#include <QTimer>
#include <QWidget>

namespace hygros::app {

class StatusLine : public QWidget {
    Q_OBJECT
public:
    explicit StatusLine(Session& session, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {600, 26}; }

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;

private:
    QRect cancelRect() const { return {width() - 58, 0, 56, height()}; }
    Session& session_;
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
