#pragma once
/// Project name, frame, and how far the picture has come: in the menu's line.
#include "app/session.h"

#include <QWidget>

class QSpinBox;

namespace hygros::app {

class StatusLine : public QWidget {
    Q_OBJECT
public:
    explicit StatusLine(Session& session, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {690, 26}; }

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;

private:
    QRect cancelRect() const { return {width() - 58, 0, 56, height()}; }
    Session& session_;
    QSpinBox* frame_;
    QString job_, jobMessage_;
    double jobShare_ = 0.0;
};
} // namespace hygros::app
