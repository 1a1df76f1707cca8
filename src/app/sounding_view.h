#pragma once
/// The Sounding: what the line of sight under a pin meets, by distance. Above, transmittance and extinction; below, the
/// light gained from each element and each lamp. The numbers can be copied as a table.
#include "app/session.h"

#include <QWidget>

class QPushButton;

namespace hygros::app {

class SoundingView : public QWidget {
    Q_OBJECT
public:
    explicit SoundingView(Session& session, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 170}; }

    /// By distance, or what gives the pixel light and what takes it, largest first.
    void setWhy(bool why);
    bool isWhy() const { return isWhy_; }

public Q_SLOTS:
    void copyTable();

protected:
    void paintEvent(QPaintEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void leaveEvent(QEvent*) override;
    void resizeEvent(QResizeEvent*) override;

private:
    void paintWhy(QPainter& p, const render::Sounding& s) const;
    QRectF plot() const;
    double xOf(double distance) const;
    Session& session_;
    QPushButton *copy_, *remove_, *along_, *why_;
    bool isWhy_ = false;
    QPointF cursor_{-1, -1};
};
} // namespace hygros::app
