/// Tracers as an aid: points with the way behind them, over the Picture and in the Transect.
#include "app/picture_view.h"
#include "app/theme.h"
#include "app/transect_view.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace hygros::app {
namespace {
/// Where a point was that long ago, had the wind there always been as it is.
Vec3 behind(const shot::Shot& shot, const media::Tracers& t, const Vec3& p)
{
    return p - media::airAt(shot.airflow.winds, shot.airflow.forces, p) * t.trail;
}
/// Of very many only each so-manieth is drawn: more would hide the picture and show no more.
std::size_t strideOf(const media::Tracers& t)
{
    constexpr std::size_t most = 2000;
    return (t.points->size() + most - 1) / most;
}
} // namespace

void PictureView::drawTracers(QPainter& p)
{
    const auto shot = session_.picture().shot();
    if (!shot)
        return;
    const geometry::View view(session_.picture().camera(), width(), height());
    QColor hue = familyHue(scene::Family::Weather).lighter(150);
    for (const media::Tracers& t : shot->airflow.tracers) {
        if (!t.points)
            continue;
        p.setRenderHint(QPainter::Antialiasing);
        for (std::size_t i = 0; i < t.points->size(); i += strideOf(t)) {
            const Vec3& point = (*t.points)[i];
            Vec2 head, tail;
            float depth = 0.f, ignored = 0.f;
            if (!view.project(point, head, depth) || head.x < 0.f || head.y < 0.f ||
                head.x >= static_cast<float>(width()) || head.y >= static_cast<float>(height()))
                continue;
            // What stands before it hides it.
            const float distance = (point - view.position()).length(),
                        met = session_.picture().distanceAt(
                            QPointF(double(head.x) / width(), double(head.y) / height()));
            if (met > 0.f && met < distance)
                continue;
            const float near = std::clamp(12.f / distance, 0.25f, 1.f);
            hue.setAlphaF(0.2f + 0.4f * near);
            const QPointF at(double(head.x), double(head.y));
            if (t.trail > 0.f && view.project(behind(*shot, t, point), tail, ignored)) {
                p.setPen(QPen(hue, 0.5 + 0.6 * double(near), Qt::SolidLine, Qt::RoundCap));
                p.drawLine(at, QPointF(double(tail.x), double(tail.y)));
            }
            p.setPen(Qt::NoPen);
            p.setBrush(hue);
            p.drawEllipse(at, 0.6 + 0.8 * double(near), 0.6 + 0.8 * double(near));
        }
        p.setBrush(Qt::NoBrush);
    }
}

void TransectView::drawTracers(QPainter& p)
{
    const auto shot = session_.picture().shot();
    if (!shot)
        return;
    // Those about the section's plane.
    Vec3 ahead = shot->camera.aim - shot->camera.position;
    ahead.y = 0.f;
    if (ahead.length2() < 1e-12f)
        return;
    ahead.normalize();
    QColor hue = familyHue(scene::Family::Weather);
    const QRectF r = plot();
    p.setRenderHint(QPainter::Antialiasing);
    for (const media::Tracers& t : shot->airflow.tracers) {
        if (!t.points)
            continue;
        const auto placed = [&](const Vec3& point, QPointF& to) {
            const Vec3 v = point - shot->camera.position;
            const float along = v.dot(ahead), aside = (v - ahead * along).cross(Vec3(0, 1, 0)).length();
            to = {xOf(double(along)), yOf(double(point.y))};
            return along > 0.f && aside < std::max(1.5f, 0.06f * along);
        };
        for (std::size_t i = 0; i < t.points->size(); i += strideOf(t)) {
            const Vec3& point = (*t.points)[i];
            QPointF head, tail;
            if (!placed(point, head) || !r.contains(head))
                continue;
            placed(behind(*shot, t, point), tail);
            p.setPen(QPen(hue, 1.0));
            if (t.trail > 0.f)
                p.drawLine(head, tail);
            p.setPen(Qt::NoPen);
            p.setBrush(hue.lighter(130));
            p.drawEllipse(head, 1.2, 1.2);
        }
        p.setBrush(Qt::NoBrush);
    }
}
} // namespace hygros::app
