#pragma once
/// A round brush over the Picture that chooses faces of a set object: those that are seen under it. A stroke is one
/// undo step.
#include "app/session.h"
#include "geometry/chosen_faces.h"

#include <QImage>
#include <QPointF>
#include <QSize>

class QPainter;

namespace hygros::app {

class PictureBrush {
public:
    explicit PictureBrush(Session& session) : session_(session) {}
    /// Whether faces are being painted now.
    bool isOn() const { return session_.selection().task().what == Selection::Task::PaintFaces; }
    /// What can be done, and how many faces are painted.
    QString words() const;
    /// The painted faces that are seen, and the brush at the cursor.
    void paint(QPainter& p, const QSize& size, const QPointF& cursor);

    void press(const QPointF& p, const QSize& size, bool takesAway);
    void drag(const QPointF& p, const QSize& size);
    void release();
    bool isHeld() const { return held_; }
    double radius() const { return radius_; } ///< [pixels]
    void resize(double steps);

private:
    using Faces = std::map<std::size_t, std::vector<bool>>;
    struct Target {
        geometry::PlacedSet placed;
        std::string painted;
    };
    /// The feed's object where it stands; nothing where there is none.
    std::optional<Target> target() const;
    void stroke(const Target& t, const QPointF& p, const QSize& size);
    /// Whether a place of the object is what is seen there.
    bool isSeen(const geometry::View& view, const Vec3& place) const;

    Session& session_;
    double radius_ = 24.0;
    bool held_ = false, takesAway_ = false;
    Faces faces_; ///< of the stroke that is under way
    // What was drawn last, and of what.
    QImage drawn_;
    std::string drawnOf_;
    std::shared_ptr<const shot::Shot> drawnIn_;
    geometry::Camera drawnFrom_;
};
} // namespace hygros::app
