#pragma once
/// A label with a thin line of a hue along its left side, as high as its text.
#include <QLabel>
#include <QPainter>

namespace hygros::app {

class EdgedLabel : public QLabel {
public:
    using QLabel::QLabel;
    /// Of the line, which stands where the label begins: leave it some room by the contents' margins.
    void setHue(const QColor& hue)
    {
        hue_ = hue;
        update();
    }

protected:
    void paintEvent(QPaintEvent* event) override
    {
        QLabel::paintEvent(event);
        const QMargins m = contentsMargins();
        QPainter(this).fillRect(QRect(0, m.top(), 3, height() - m.top() - m.bottom()), hue_);
    }

private:
    QColor hue_;
};
} // namespace hygros::app
