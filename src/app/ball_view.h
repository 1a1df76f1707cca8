#pragma once
/// Three ways to link scattering and absorption, each shown by what a ball of the stuff becomes when it gets twice as
/// dense that way.
#include "reading/lit_ball.h"

#include <QImage>
#include <QWidget>
#include <array>

namespace hygros::app {

class BallView : public QWidget {
    Q_OBJECT
public:
    explicit BallView(QWidget* parent = nullptr);
    /// The stuff as it is, and twice as dense by each way; which way it is linked now.
    void setBalls(const reading::BallOf& now, const std::array<reading::BallOf, 3>& denser, int linked);
    static constexpr std::array<const char*, 3> ways{"albedo", "scattering", "free"};
    QSize sizeHint() const override { return {280, 122}; }
    /// Where the ball of a way stands; −1: the stuff as it is.
    QRect ballRect(int way) const;

Q_SIGNALS:
    void chosen(const QString& way);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override {}
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    std::array<QImage, 4> images_; ///< as it is, then by way
    reading::BallOf now_;
    int linked_ = 0;
};
} // namespace hygros::app
