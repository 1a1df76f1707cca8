#include "app/picture_brush.h"

#include "app/words.h"

#include <QLineF>
#include <QPainter>
#include <QPolygonF>
#include <algorithm>
#include <cmath>

namespace hygros::app {
namespace {
bool isLeftOut(const geometry::PlacedSet& placed, const geometry::Mesh& mesh)
{
    return std::find(placed.without.begin(), placed.without.end(), mesh.group) != placed.without.end();
}
struct Corner {
    Vec3 world;
    QPointF at;
    bool seen; ///< before the camera
};
std::vector<Corner> cornersOf(const geometry::View& view, const geometry::PlacedSet& placed, const geometry::Mesh& mesh)
{
    std::vector<Corner> out;
    out.reserve(mesh.positions.size());
    for (const Vec3& p : mesh.positions) {
        Corner c{p * placed.toWorld, {}, false};
        Vec2 pixel;
        float depth = 0.f;
        c.seen = view.project(c.world, pixel, depth);
        if (c.seen)
            c.at = QPointF(double(pixel.x), double(pixel.y));
        out.push_back(c);
    }
    return out;
}
double cross(const QPointF& a, const QPointF& b) { return a.x() * b.y() - a.y() * b.x(); }
/// The place of a triangle that is nearest to a point.
QPointF nearestIn(const QPointF (&t)[3], const QPointF& p)
{
    const double around[3] = {cross(t[1] - t[0], p - t[0]), cross(t[2] - t[1], p - t[1]), cross(t[0] - t[2], p - t[2])};
    if ((around[0] >= 0 && around[1] >= 0 && around[2] >= 0) || (around[0] <= 0 && around[1] <= 0 && around[2] <= 0))
        return p;
    QPointF best = t[0];
    for (int k = 0; k < 3; ++k) {
        const QPointF a = t[k], d = t[(k + 1) % 3] - a;
        const double length = QPointF::dotProduct(d, d);
        const QPointF q = a + d * (length > 0.0 ? std::clamp(QPointF::dotProduct(p - a, d) / length, 0.0, 1.0) : 0.0);
        if (QLineF(q, p).length() < QLineF(best, p).length())
            best = q;
    }
    return best;
}
} // namespace

std::optional<PictureBrush::Target> PictureBrush::target() const
{
    const scene::Project& project = session_.project();
    const scene::Element* feed = project.find(session_.selection().task().element);
    if (!feed || !scene::findParameter(feed->kind->parameters, "painted"))
        return std::nullopt;
    const scene::Element* object = project.find(std::get<std::string>(feed->value("object")));
    try {
        JobControl job;
        auto placed = object ? elements::placedSet(project, *object, session_.store(), job) : std::nullopt;
        if (placed)
            return Target{std::move(*placed), std::get<std::string>(feed->value("painted"))};
    } catch (const std::exception&) { // freezing says so
    }
    return std::nullopt;
}

QString PictureBrush::words() const
{
    const auto t = target();
    if (!t)
        return say("Choose the object whose faces are to feed on its card first.");
    const auto chosen = geometry::ChosenFaces::parse(t->painted);
    const std::size_t count = chosen ? chosen->count() : 0;
    return say("Drag: faces under the brush feed. With Shift: not. Ctrl and wheel: its size.   %1 painted").arg(count);
}

bool PictureBrush::isSeen(const geometry::View& view, const Vec3& place) const
{
    const auto shot = session_.picture().shot();
    const Vec3 way = place - view.position();
    const float distance = way.length();
    if (!shot || !(distance > 1e-4f))
        return false;
    geometry::Hit hit;
    return !shot->scene->trace(view.position(), way / distance, 1e-3f, distance * 0.997f - 1e-3f, hit);
}

void PictureBrush::stroke(const Target& t, const QPointF& p, const QSize& size)
{
    const geometry::View view = session_.picture().viewIn(size);
    for (std::size_t m = 0; m < t.placed.set->meshes.size(); ++m) {
        const geometry::Mesh& mesh = t.placed.set->meshes[m];
        if (isLeftOut(t.placed, mesh))
            continue;
        const std::vector<Corner> corners = cornersOf(view, t.placed, mesh);
        std::vector<bool>& on = faces_[m];
        on.resize(mesh.indices.size() / 3, false);
        for (std::size_t i = 0; i < on.size(); ++i) {
            const Corner *a = &corners[mesh.indices[3 * i]], *b = &corners[mesh.indices[3 * i + 1]],
                         *c = &corners[mesh.indices[3 * i + 2]];
            if (on[i] != takesAway_ || !a->seen || !b->seen || !c->seen)
                continue;
            const QPointF flat[3] = {a->at, b->at, c->at};
            const QPointF q = nearestIn(flat, p);
            if (QLineF(q, p).length() > radius_)
                continue;
            // Where the ray through that place meets it; a little inside, so that edges of others do not hide it.
            const QPointF inside = q + ((a->at + b->at + c->at) / 3.0 - q) * 0.05;
            const Vec3 d = view.direction(static_cast<float>(inside.x()), static_cast<float>(inside.y()));
            const Vec3 normal = (b->world - a->world).cross(c->world - a->world);
            const float facing = normal.dot(d);
            if (std::abs(facing) < 1e-12f)
                continue;
            if (isSeen(view, view.position() + d * (normal.dot(a->world - view.position()) / facing)))
                on[i] = !takesAway_;
        }
    }
}

void PictureBrush::press(const QPointF& p, const QSize& size, bool takesAway)
{
    const auto t = target();
    if (!t)
        return;
    held_ = true;
    takesAway_ = takesAway;
    const auto chosen = geometry::ChosenFaces::parse(t->painted);
    faces_ = chosen ? chosen->on(*t->placed.set).faces : Faces();
    stroke(*t, p, size);
}

void PictureBrush::drag(const QPointF& p, const QSize& size)
{
    if (const auto t = target(); t && held_)
        stroke(*t, p, size);
}

void PictureBrush::release()
{
    const auto t = target();
    if (!std::exchange(held_, false) || !t)
        return;
    const std::string text = geometry::ChosenFaces(*t->placed.set, std::exchange(faces_, {})).text();
    if (text != t->painted)
        session_.document().edit(
            takesAway_ ? say("Take painted faces away") : say("Paint faces"),
            [&](scene::Project& next) { next.find(session_.selection().task().element)->set("painted", text); });
}

void PictureBrush::resize(double steps) { radius_ = std::clamp(radius_ * std::pow(1.15, steps), 3.0, 300.0); }

void PictureBrush::paint(QPainter& p, const QSize& size, const QPointF& cursor)
{
    constexpr std::size_t most = 40'000; // faces looked at one by one
    const auto t = target();
    if (!t)
        return;
    const auto chosen = geometry::ChosenFaces::parse(t->painted);
    const Faces faces = held_ ? faces_ : chosen ? chosen->on(*t->placed.set).faces : Faces();
    const std::string now = held_ ? geometry::ChosenFaces(*t->placed.set, faces).text() : t->painted;
    const auto shot = session_.picture().shot();
    if (drawn_.size() != size || drawnOf_ != now || drawnIn_ != shot || drawnFrom_ != session_.picture().camera()) {
        drawn_ = QImage(size, QImage::Format_ARGB32_Premultiplied);
        drawn_.fill(Qt::transparent);
        drawnOf_ = now;
        drawnIn_ = shot;
        drawnFrom_ = session_.picture().camera();
        QPainter q(&drawn_);
        const QColor accent("#B4C95A");
        q.setPen(QPen(accent, 1));
        q.setBrush(accent);
        const geometry::View view = session_.picture().viewIn(size);
        std::size_t count = 0;
        for (const auto& [m, on] : faces) {
            const geometry::Mesh& mesh = t->placed.set->meshes[m];
            const std::vector<Corner> corners = cornersOf(view, t->placed, mesh);
            for (std::size_t i = 0; i < on.size(); ++i) {
                const Corner *a = &corners[mesh.indices[3 * i]], *b = &corners[mesh.indices[3 * i + 1]],
                             *c = &corners[mesh.indices[3 * i + 2]];
                if (!on[i] || !a->seen || !b->seen || !c->seen || ++count > most)
                    continue;
                if (isSeen(view, (a->world + b->world + c->world) / 3.f))
                    q.drawPolygon(QPolygonF{a->at, b->at, c->at});
            }
        }
    }
    p.save();
    p.setOpacity(0.5);
    p.drawImage(0, 0, drawn_);
    p.restore();
    if (cursor.x() < 0)
        return;
    p.setRenderHint(QPainter::Antialiasing);
    p.setBrush(Qt::NoBrush);
    for (const auto& [colour, w] : {std::pair(QColor(0, 0, 0, 160), 3.2), std::pair(QColor("#e6e6e4"), 1.3)}) {
        p.setPen(QPen(colour, w));
        p.drawEllipse(cursor, radius_, radius_);
    }
}
} // namespace hygros::app
