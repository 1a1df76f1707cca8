#pragma once
/// Handles in the Picture for what is selected: a disc lying level in the scene. Its middle moves the thing over the
/// level, the mark on its rim turns it, the tip of its mast lifts it, the second rim mark sizes it. A lamp also has a
/// mark where it shines, one on the rim of its beam there, and one at the end of its range.
#include "app/session.h"

#include <QPainter>

namespace hygros::app {

class PictureHandles {
public:
    explicit PictureHandles(Session& session) : session_(session) {}
    enum class Part { None, Move, Turn, Lift, Size, Aim, Cone, Range };
    /// Where a part stands on a picture of this size; null when nothing with handles is selected or it is behind the
    /// camera.
    QPointF at(Part part, const QSize& size) const;
    Part partAt(const QPointF& p, const QSize& size) const;
    void paint(QPainter& painter, const QSize& size, Part lit) const;
    /// One gesture: press, drags, release; one undo step.
    bool press(const QPointF& p, const QSize& size);
    void drag(const QPointF& p, const QSize& size);
    void release();
    bool isHeld() const { return held_ != Part::None; }

private:
    /// What is selected and which of its parameters the handles drive; empty names for those it has not.
    struct Target {
        const scene::Element* element = nullptr;
        std::string place, turn, size;
        Vec3 position{0.f};
        double heading = 0.0;
        // Of lamps: the point they shine at, the opening or width of their beam, their range.
        std::string aim = {}, cone = {}, range = {};
        Vec3 target{0.f};
    };
    Target target() const;
    Vec3 worldAt(const Target& t, Part part, const geometry::View& view) const;
    static float radius(const Target& t, const geometry::View& view);
    static constexpr float discPixels = 54.f;

    Session& session_;
    Part held_ = Part::None;
    QPointF pressed_;
    std::vector<Arranger::Place> starts_; ///< of all that are chosen, where several are
    Vec3 startPlace_{0.f}, startSize_{1.f};
    double startTurn_ = 0.0, startScale_ = 1.0, startAngle_ = 0.0, startRadius_ = 1.0;
    int gesture_ = 0;
};
} // namespace hygros::app
