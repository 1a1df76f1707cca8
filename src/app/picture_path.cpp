#include "app/picture_path.h"

#include "app/theme.h"
#include "app/words.h"
#include "scene/evaluate.h"

#include <QLineF>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace hygros::app {
namespace {
std::optional<QPointF> projected(const geometry::View& view, const Vec3& world)
{
    Vec2 pixel(0.f);
    float depth = 0.f;
    if (!view.project(world, pixel, depth))
        return std::nullopt;
    return QPointF(double(pixel.x), double(pixel.y));
}
} // namespace

const scene::Parameter* PicturePath::place(const scene::Element*& element) const
{
    const std::string& id = session_.selection().selected();
    element = id.empty() ? nullptr : session_.document().history().now().find(id);
    if (!element)
        return nullptr;
    const elements::Kind& kind = elements::kindOf(*element);
    const std::string parameter = kind.handles ? kind.handles(*element).place : std::string();
    const scene::Track* track = parameter.empty() ? nullptr : element->track(parameter);
    return track && !track->keys.empty() ? scene::findParameter(element->kind->parameters, parameter) : nullptr;
}

Mat4 PicturePath::frameOf(const scene::Element& element, double frame) const
{
    const auto& parameters = element.kind->parameters;
    const auto carrier = std::find_if(parameters.begin(), parameters.end(), [](const auto& p) { return p.isCarrier; });
    if (carrier == parameters.end() || std::get<std::string>(carrier->get(*element.settings)).empty())
        return {};
    const scene::Project then = scene::evaluated(session_.document().history().now(), frame);
    JobControl job;
    return elements::frameOf(then, *then.find(element.id), session_.store(), job);
}

Vec3 PicturePath::worldAt(const scene::Element& element, const scene::Parameter& place, double frame) const
{
    Vec3 world;
    frameOf(element, frame)
        .multVecMatrix(std::get<Vec3>(scene::valueAt(session_.document().history().now(), element, place, frame)),
                       world);
    return world;
}

std::optional<QPointF> PicturePath::at(double frame, const QSize& size) const
{
    const scene::Element* e = nullptr;
    const scene::Parameter* p = place(e);
    return p ? projected(session_.picture().viewIn(size), worldAt(*e, *p, frame)) : std::nullopt;
}

std::optional<double> PicturePath::keyAt(const QPointF& point, const QSize& size) const
{
    const scene::Element* e = nullptr;
    const scene::Parameter* p = place(e);
    if (!p)
        return std::nullopt;
    const geometry::View view = session_.picture().viewIn(size);
    std::optional<double> best;
    double nearest = 8.0;
    for (const scene::Key& k : e->track(p->id)->keys)
        // At the frame one stands at the element's own handle is taken.
        if (std::abs(k.frame - session_.document().frame()) > 1e-3)
            if (const auto at = projected(view, worldAt(*e, *p, k.frame));
                at && QLineF(*at, point).length() < nearest) {
                nearest = QLineF(*at, point).length();
                best = k.frame;
            }
    return best;
}

void PicturePath::paint(QPainter& p, const QSize& size) const
{
    const scene::Element* e = nullptr;
    const scene::Parameter* parameter = place(e);
    if (!parameter)
        return;
    const geometry::View view = session_.picture().viewIn(size);
    const scene::Track& track = *e->track(parameter->id);
    const scene::TimeSettings& time = session_.project().time;
    const double first = std::min<double>(time.first, track.keys.front().frame),
                 last = std::max<double>(time.last, track.keys.back().frame);
    const int pieces = static_cast<int>(std::clamp(2.0 * (last - first), 2.0, 240.0));
    p.setRenderHint(QPainter::Antialiasing);
    p.setBrush(Qt::NoBrush);
    const QColor accent("#B4C95A");
    std::vector<QPolygonF> lines(1);
    for (int i = 0; i <= pieces; ++i)
        if (const auto at = projected(view, worldAt(*e, *parameter, first + (last - first) * i / pieces)))
            lines.back() << *at;
        else if (!lines.back().isEmpty())
            lines.emplace_back();
    for (const auto& [colour, w] : {std::pair(QColor(0, 0, 0, 130), 3.0), std::pair(accent, 1.2)}) {
        p.setPen(QPen(colour, w));
        for (const QPolygonF& line : lines)
            p.drawPolyline(line);
    }
    // A tick each so many frames, as many as have room.
    int step = 1;
    const auto spacing = [&] {
        const auto a = at(first, size), b = at(first + step, size);
        return a && b ? QLineF(*a, *b).length() : 0.0;
    };
    for (const int next : {5, 10, 25, 50, 100})
        if (spacing() < 5.0)
            step = next;
    p.setPen(QPen(accent, 1));
    for (double f = first; f < last; f += step)
        if (const auto a = at(f, size), b = at(f + 0.5, size); a && b && QLineF(*a, *b).length() > 0.05) {
            const QLineF across = QLineF(*a, *b).unitVector().normalVector();
            const QPointF half(across.dx() * 3.0, across.dy() * 3.0);
            p.drawLine(*a - half, *a + half);
        }
    p.setFont(figureFont(10));
    for (const scene::Key& k : track.keys)
        if (const auto at = projected(view, worldAt(*e, *parameter, k.frame))) {
            const bool held = held_ && std::abs(*held_ - k.frame) < 1e-3;
            p.setPen(QPen(accent, 1.5));
            p.setBrush(held ? accent : QColor(20, 21, 22, 220));
            p.drawEllipse(*at, 4.0, 4.0);
            const QString text = QString::fromStdString(formatNumber(k.frame, 6));
            const QRectF box(at->x() + 7, at->y() - 17, QFontMetrics(p.font()).horizontalAdvance(text) + 8, 15);
            p.fillRect(box, QColor(20, 21, 22, 190));
            p.setPen(QColor("#e6e6e4"));
            p.drawText(box, Qt::AlignCenter, text);
        }
    p.setBrush(Qt::NoBrush);
}

bool PicturePath::press(const QPointF& point, const QSize& size)
{
    held_ = keyAt(point, size);
    if (!held_)
        return false;
    const scene::Element* e = nullptr;
    const scene::Parameter* p = place(e);
    start_ = worldAt(*e, *p, *held_);
    pressed_ = point;
    moved_ = false;
    ++gesture_;
    return true;
}

void PicturePath::drag(const QPointF& point, const QSize& size, bool upright)
{
    const scene::Element* e = nullptr;
    const scene::Parameter* p = place(e);
    if (!p || !held_ || (!moved_ && (point - pressed_).manhattanLength() < 3.0))
        return;
    moved_ = true;
    const geometry::View view = session_.picture().viewIn(size);
    const float metres = std::max(0.1f, (start_ - view.position()).dot(view.forward())) * view.pixelAngle();
    const auto level = [&](const QPointF& q) -> std::optional<Vec3> {
        const Vec3 d = view.direction(static_cast<float>(q.x()), static_cast<float>(q.y()));
        const float t = (start_.y - view.position().y) / d.y;
        return t > 0.f && t < 2e4f ? std::optional(view.position() + d * t) : std::nullopt;
    };
    Vec3 world = start_;
    const auto from = level(pressed_), to = level(point);
    if (upright)
        world.y -= static_cast<float>(point.y() - pressed_.y()) * metres;
    else if (from && to && std::abs(view.position().y - start_.y) > 0.3f)
        world += *to - *from;
    else
        world += view.right() * (static_cast<float>(point.x() - pressed_.x()) * metres);
    for (int axis = 0; axis < 3; ++axis)
        world[axis] = std::round(world[axis] * 100.f) / 100.f;
    Vec3 local;
    frameOf(*e, *held_).inverse().multVecMatrix(world, local);
    scene::Track track = *e->track(p->id);
    scene::Key key = *track.at(*held_);
    key.value = local;
    track.put(key);
    session_.document().setTrack(e->id, p->id, std::move(track), say("Path of ") + QString::fromStdString(e->name),
                                 QString("path#%1").arg(gesture_));
}

void PicturePath::release()
{
    if (held_ && moved_)
        session_.document().endDrag();
    else if (held_)
        session_.document().setFrame(static_cast<int>(std::lround(*held_)));
    held_.reset();
}
} // namespace hygros::app
