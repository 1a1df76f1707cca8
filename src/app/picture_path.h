#pragma once
/// The way of the selected element through time, over the Picture: its line, a tick a frame, its keys as points that
/// are dragged.
#include "app/session.h"

#include <QPointF>
#include <QSize>
#include <optional>

class QPainter;

namespace hygros::app {

class PicturePath {
public:
    explicit PicturePath(Session& session) : session_(session) {}

    void paint(QPainter& p, const QSize& size) const;
    /// The key under a point of the picture, by its frame.
    std::optional<double> keyAt(const QPointF& p, const QSize& size) const;
    /// Where the element is at a frame; nothing where it has no path or that is not seen.
    std::optional<QPointF> at(double frame, const QSize& size) const;

    bool press(const QPointF& p, const QSize& size);
    /// Over the level through the point, as the element's own handle; `upright`: up and down.
    void drag(const QPointF& p, const QSize& size, bool upright);
    /// A click without a drag goes to that frame.
    void release();
    bool isHeld() const { return held_.has_value(); }

private:
    /// Its keyed place; null where the selected element has none.
    const scene::Parameter* place(const scene::Element*& element) const;
    /// Where what its place is measured in stands at a frame.
    Mat4 frameOf(const scene::Element& element, double frame) const;
    Vec3 worldAt(const scene::Element& element, const scene::Parameter& place, double frame) const;

    Session& session_;
    std::optional<double> held_;
    QPointF pressed_;
    Vec3 start_{0.f};
    bool moved_ = false;
    int gesture_ = 0;
};
} // namespace hygros::app
