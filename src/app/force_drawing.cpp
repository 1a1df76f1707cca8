/// Forces as an aid: lines along which the chosen one moves the air, over the Picture and in the Transect.
#include "app/picture_view.h"
#include "app/theme.h"
#include "app/transect_view.h"
#include "media/streamlines.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace hygros::app {
namespace {
constexpr int lines = 96;

/// Of the force that is chosen or pointed at; nothing where that is none.
std::vector<media::Streamline> linesNow(Session& session)
{
    const auto shot = session.picture().shot();
    if (!shot)
        return {};
    for (const media::Force& f : shot->airflow.forces)
        if (f.id == session.selection().selected() || f.id == session.selection().hovered())
            return media::streamlines(f, shot->airflow.winds, lines);
    return {};
}
float fastestOf(const std::vector<media::Streamline>& all)
{
    float fastest = 1e-6f;
    for (const media::Streamline& l : all)
        fastest = std::max(fastest, l.speed);
    return fastest;
}
/// A line with a barb at its end, the stronger the faster.
void draw(QPainter& p, const QPolygonF& line, QColor hue, double share)
{
    if (line.size() < 2)
        return;
    hue.setAlphaF(static_cast<float>(0.25 + 0.65 * share));
    p.setPen(QPen(QColor(0, 0, 0, static_cast<int>(110 * share)), 2.6));
    p.drawPolyline(line);
    p.setPen(QPen(hue, 0.8 + 0.8 * share, Qt::SolidLine, Qt::RoundCap));
    p.drawPolyline(line);
    const QPointF end = line.back();
    for (qsizetype i = line.size() - 1; i-- > 0;) {
        const QLineF back(end, line[i]);
        if (back.length() < 5.0)
            continue;
        for (const double turn : {24.0, -24.0}) {
            QLineF barb = back;
            barb.setLength(5.0);
            barb.setAngle(back.angle() + turn);
            p.drawLine(barb);
        }
        break;
    }
}
} // namespace

void PictureView::drawForces(QPainter& p)
{
    const auto all = linesNow(session_);
    if (all.empty())
        return;
    const geometry::View view(session_.picture().camera(), width(), height());
    const QColor hue = familyHue(scene::Family::Weather).lighter(160);
    const float fastest = fastestOf(all);
    p.setRenderHint(QPainter::Antialiasing);
    p.setBrush(Qt::NoBrush);
    for (const media::Streamline& l : all) {
        QPolygonF line;
        for (const Vec3& point : l.points) {
            Vec2 at;
            float depth = 0.f;
            const bool seen = view.project(point, at, depth);
            // What stands before it hides it.
            const float met = seen ? session_.picture().distanceAt(
                                         QPointF(double(at.x) / width(), double(at.y) / height()))
                                   : 0.f;
            if (seen && !(met > 0.f && met < (point - view.position()).length())) {
                line << QPointF(double(at.x), double(at.y));
            } else {
                draw(p, line, hue, double(l.speed / fastest));
                line.clear();
            }
        }
        draw(p, line, hue, double(l.speed / fastest));
    }
}

void TransectView::drawForces(QPainter& p)
{
    const auto all = linesNow(session_);
    const auto shot = session_.picture().shot();
    if (all.empty() || !shot)
        return;
    Vec3 ahead = shot->camera.aim - shot->camera.position;
    ahead.y = 0.f;
    if (ahead.length2() < 1e-12f)
        return;
    ahead.normalize();
    const QColor hue = familyHue(scene::Family::Weather);
    const float fastest = fastestOf(all);
    p.save();
    p.setClipRect(plot());
    p.setRenderHint(QPainter::Antialiasing);
    for (const media::Streamline& l : all) {
        QPolygonF line;
        for (const Vec3& point : l.points)
            if (const float along = (point - shot->camera.position).dot(ahead); along > 0.f)
                line << QPointF(xOf(double(along)), yOf(double(point.y)));
        draw(p, line, hue, double(l.speed / fastest));
    }
    p.restore();
}
} // namespace hygros::app
