/// What is done by clicking in the Picture: a known length, a plate's horizon, placing lamps and recipes, aiming.
#include "app/picture_view.h"

#include "app/theme.h"
#include "app/words.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <array>
#include <cmath>

namespace hygros::app {
using geometry::Camera;

void PictureView::buildTaskBar(const QString& style)
{
    taskBar_ = new QWidget(this);
    taskBar_->setObjectName("taskBar");
    taskBar_->setAttribute(Qt::WA_StyledBackground);
    taskBar_->setStyleSheet(
        "#taskBar{background:rgba(20,21,22,225);border-left:3px solid #B4C95A} QLabel{color:#e6e6e4}"
        "QLineEdit{background:#101112;border:1px solid #6c7072;color:#e6e6e4;padding:2px "
        "5px}QLineEdit:focus{border-color:#B4C95A}" +
        style);
    auto* row = new QHBoxLayout(taskBar_);
    row->setContentsMargins(10, 6, 8, 6);
    taskText_ = new QLabel(taskBar_);
    taskText_->setObjectName("taskText");
    lengthField_ = new QLineEdit(taskBar_);
    lengthField_->setObjectName("lengthField");
    lengthField_->setPlaceholderText(say("e.g. 2.1 m"));
    lengthField_->setFixedWidth(90);
    lengthField_->setFont(figureFont(11));
    auto* done = new QPushButton(say("Done"), taskBar_);
    done->setObjectName("taskDone");
    row->addWidget(taskText_, 1);
    row->addWidget(lengthField_);
    row->addWidget(done);
    taskBar_->hide();
    connect(lengthField_, &QLineEdit::returnPressed, this, &PictureView::takeLength);
    connect(done, &QPushButton::clicked, this, [this] {
        if (session_.selection().task().what == Selection::Task::KnownLength && lengthPoints_.size() == 2 &&
            !lengthField_->text().isEmpty())
            takeLength();
        else
            session_.selection().begin({});
    });
}

void PictureView::fitTask()
{
    // On one line where there is room for it.
    taskText_->setWordWrap(false);
    taskBar_->adjustSize();
    const int most = width() - 24;
    if (taskBar_->width() <= most)
        return;
    taskText_->setWordWrap(true);
    taskBar_->resize(most, taskBar_->layout()->heightForWidth(most));
}

void PictureView::changeTask()
{
    lengthPoints_.clear();
    heldMark_ = HeldMark::None;
    lengthField_->hide();
    lengthField_->clear();
    const auto what = session_.selection().task().what;
    taskBar_->setVisible(what != Selection::Task::Nothing);
    if (what == Selection::Task::KnownLength)
        taskText_->setText(say("Click one end of something whose length you know."));
    else if (what == Selection::Task::PlaceLamp)
        taskText_->setText(say("Click the surface it is to stand over."));
    else if (what == Selection::Task::PlaceTaken)
        taskText_->setText(say("Click where %1 is to stand. Esc leaves it where it is.").arg(session_.takenName()));
    else if (what == Selection::Task::AimLamp)
        taskText_->setText(say("Click what it is to shine at."));
    else if (what == Selection::Task::Focus)
        taskText_->setText(say("Click what is to be sharp."));
    else if (what == Selection::Task::StrikeTo)
        taskText_->setText(say("Click where it is to strike."));
    else if (what == Selection::Task::StrikeFrom)
        taskText_->setText(say("Now click where it comes from: a place in the sky over that."));
    else if (what == Selection::Task::PlaceWater)
        taskText_->setText(say("Click the ground that it is to stand on, or the line that it is to reach."));
    else if (what == Selection::Task::DrawRegion)
        taskText_->setText(say("Drag a rectangle: it alone is drawn from then on, and gets clean sooner."));
    else if (what == Selection::Task::PaintFaces)
        taskText_->setText(brush_.words());
    else if (what == Selection::Task::Horizon)
        taskText_->setText(say(
            "Drag the line to the plate's horizon, an end of it to tilt it; drag the mark to a place on the ground, "
            "0 m high."));
    fitTask();
    taskBar_->move(12, 12);
    update();
}

bool PictureView::pressPlace(const QPointF& p)
{
    const auto task = session_.selection().task();
    const scene::Element* e = session_.project().find(task.element);
    const auto shot = session_.picture().shot();
    geometry::Hit hit;
    const geometry::View view(session_.picture().camera(), width(), height());
    const Vec3 d = view.direction(static_cast<float>(p.x()), static_cast<float>(p.y()));
    if (!e) { // gone meanwhile
        session_.selection().begin({});
        return true;
    }
    if (task.what == Selection::Task::StrikeFrom) {
        // As far away as where it strikes.
        const Vec3 to = session_.document().placeOf(task.element, "aim"), way = to - view.position();
        const float far = std::hypot(way.x, way.z), level = std::max(0.02f, std::hypot(d.x, d.z));
        session_.document().setPlace(task.element, "position", view.position() + d * (far / level));
        session_.selection().begin({});
        return true;
    }
    const bool isFound = shot && (task.what == Selection::Task::PlaceWater
                                      ? shot->scene->traceSets(view.position(), d, 1e-3f, shot::Shot::farDistance, hit)
                                      : shot->scene->trace(view.position(), d, 1e-3f, shot::Shot::farDistance, hit));
    if (!isFound) {
        taskText_->setText(say("There is nothing but sky. Click on the set."));
        fitTask();
        return true;
    }
    const Vec3 point = view.position() + d * hit.t;
    if (task.what == Selection::Task::AimLamp) {
        session_.document().setPlace(task.element, "aim", point);
        session_.selection().begin({});
        return true;
    }
    if (task.what == Selection::Task::StrikeTo) {
        session_.document().setPlace(task.element, "aim", point);
        session_.selection().begin({Selection::Task::StrikeFrom, task.element});
        return true;
    }
    if (task.what == Selection::Task::PlaceWater) {
        if (scene::findParameter(e->kind->parameters, "level"))
            session_.document().setValue(task.element, "level", double(point.y));
        else
            session_.document().setPlace(task.element, "position", point);
        session_.selection().begin({});
        return true;
    }
    if (task.what == Selection::Task::PlaceTaken) {
        session_.placeTaken(point);
        session_.selection().begin({});
        return true;
    }
    // Over level ground at a lamp post's height, before a wall by a hand's breadth; it goes on shining the way it did,
    // down at first.
    const bool level = hit.geometricNormal.y > 0.5f;
    const float height = elements::kindOf(*e).standsOver;
    const Vec3 place = level ? point + Vec3(0.f, height, 0.f) : point + hit.geometricNormal * 0.2f;
    const bool aims = scene::findParameter(e->kind->parameters, "aim");
    session_.document().edit(say("place the lamp"), [&](scene::Project& next) {
        Vec3 local, aim;
        const Mat4 into = session_.document().frameOf(task.element).inverse();
        into.multVecMatrix(place, local);
        into.multVecMatrix(level ? point : point + hit.geometricNormal * 4.f + Vec3(0.f, -1.f, 0.f), aim);
        scene::Element& own = *next.find(task.element);
        own.set("position", local);
        if (aims)
            own.set("aim", aim);
    });
    session_.selection().begin(aims ? Selection::Task{Selection::Task::AimLamp, task.element} : Selection::Task{});
    return true;
}

bool PictureView::pressTask(const QPointF& p, Qt::KeyboardModifiers modifiers)
{
    const auto what = session_.selection().task().what;
    if (what == Selection::Task::Nothing)
        return false;
    if (what == Selection::Task::PlaceLamp || what == Selection::Task::AimLamp || what == Selection::Task::PlaceTaken ||
        what == Selection::Task::StrikeTo || what == Selection::Task::StrikeFrom || what == Selection::Task::PlaceWater)
        return pressPlace(p);
    if (what == Selection::Task::PaintFaces) {
        brush_.press(p, size(), modifiers & Qt::ShiftModifier);
        update();
        return true;
    }
    if (what == Selection::Task::Horizon) {
        heldMark_ = QLineF(groundMark(), p).length() < 14              ? HeldMark::Ground
                    : std::abs(p.y() - horizonY(p.x())) > 9            ? HeldMark::None
                    : std::abs(p.x() - 0.5 * width()) > 0.42 * width() ? HeldMark::Tilt
                                                                       : HeldMark::Horizon;
        middleRow_ = horizonY();
        ++taskGesture_;
        return true;
    }
    const float d = session_.picture().distanceAt(QPointF(p.x() / width(), p.y() / height()));
    if (d <= 0.f || d >= shot::Shot::farDistance * 0.999f) {
        taskText_->setText(say("There is nothing but sky. Click on the set."));
        fitTask();
        return true;
    }
    if (what == Selection::Task::Focus) {
        const geometry::View view(session_.picture().camera(), width(), height());
        const Vec3 way = view.direction(static_cast<float>(p.x()), static_cast<float>(p.y()));
        session_.document().edit(say("Focus"), [&, id = session_.selection().task().element](scene::Project& next) {
            scene::Element& shot = *next.find(id);
            shot.set("blurs", true);
            shot.set("focus", std::max(0.02, double(d * way.dot(view.forward()))));
        });
        session_.selection().begin({});
        return true;
    }
    if (lengthPoints_.size() == 2)
        lengthPoints_.clear();
    const geometry::View view(session_.picture().camera(), width(), height());
    lengthPoints_.push_back(view.position() + view.direction(static_cast<float>(p.x()), static_cast<float>(p.y())) * d);
    if (lengthPoints_.size() == 1) {
        taskText_->setText(say("Click its other end."));
    } else {
        const double measured = double((lengthPoints_[1] - lengthPoints_[0]).length());
        taskText_->setText(say("Now it is %1 long. It should be")
                               .arg(QString::fromStdString(formatQuantity(measured, Quantity::Length))));
        lengthField_->show();
        lengthField_->setFocus();
    }
    fitTask();
    update();
    return true;
}

void PictureView::takeLength()
{
    const auto wanted = parseQuantity(lengthField_->text().toStdString(), Quantity::Length);
    const scene::Element* e = session_.project().find(session_.selection().task().element);
    const float measured = lengthPoints_.size() == 2 ? (lengthPoints_[1] - lengthPoints_[0]).length() : 0.f;
    if (!wanted || *wanted <= 0.0 || !e || measured <= 0.f) {
        Q_EMIT session_.failed(say("“%1” is no length. Type for example 2.1 m or 7 ft.").arg(lengthField_->text()));
        return;
    }
    const double scale = std::get<double>(e->value("scale")) * *wanted / double(measured);
    if (session_.document().setValue(e->id, "scale", std::strtod(formatNumber(scale, 6).c_str(), nullptr)))
        session_.selection().begin({});
}

void PictureView::dragTask(const QPointF& p)
{
    if (heldMark_ == HeldMark::Ground) {
        groundMark_ = QPointF(std::clamp(p.x() / width(), 0.0, 1.0), std::clamp(p.y() / height(), 0.0, 1.0));
        update();
    } else if (heldMark_ != HeldMark::None) {
        // The camera is pitched until the line of sight under the pointer is level; with an end held it is rolled
        // until then, and pitched so that the middle's stays level.
        const auto shot = session_.picture().shot();
        if (!shot)
            return;
        Camera c = shot->camera;
        const geometry::View view(session_.picture().camera(), width(), height());
        const auto tangents = [&](double x, double y) {
            const auto one = double(view.pixelAngle());
            return std::pair((x - double(view.middle().x)) * one, (y - double(view.middle().y)) * one);
        };
        const auto [aside, below] = tangents(p.x(), p.y());
        double roll = double(c.roll), rise = aside * std::sin(roll) + below * std::cos(roll); // tangent of the pitch
        if (heldMark_ == HeldMark::Tilt) {
            if (std::abs(p.x() - 0.5 * width()) < 8.0)
                return; // about its middle it has no slope
            const auto [middle, row] = tangents(0.5 * width(), middleRow_);
            roll = std::atan((row - below) / (aside - middle));
            rise = middle * std::sin(roll) + row * std::cos(roll);
        }
        Vec3 level = c.aim - c.position;
        level.y = 0.f;
        const float length = std::max(1.f, (c.aim - c.position).length());
        if (level.length2() < 1e-8f)
            return;
        level.normalize();
        const double pitch = std::clamp(std::atan(rise), -1.3, 1.3);
        c.aim = c.position +
                (level * static_cast<float>(std::cos(pitch)) + Vec3(0, static_cast<float>(std::sin(pitch)), 0)) *
                    length;
        c.roll = static_cast<float>(roll);
        session_.document().edit(
            say("Horizon"), [&](scene::Project& project) { elements::lookFrom(project, c, session_.store()); },
            QString("horizon#%1").arg(taskGesture_));
    }
}

void PictureView::releaseTask()
{
    if (heldMark_ == HeldMark::Horizon || heldMark_ == HeldMark::Tilt)
        session_.document().endDrag();
    if (heldMark_ == HeldMark::Ground) {
        const auto shot = session_.picture().shot();
        const geometry::View view(session_.picture().camera(), width(), height());
        const QPointF at = groundMark();
        const Vec3 d = view.direction(static_cast<float>(at.x()), static_cast<float>(at.y()));
        const float distance = session_.picture().distanceAt(groundMark_);
        if (!shot || d.y > -1e-3f)
            Q_EMIT session_.failed(say("The ground's mark must lie below the horizon."));
        else if (distance <= 0.f || distance >= shot::Shot::farDistance * 0.999f)
            Q_EMIT session_.failed(
                say("There is no depth under the ground's mark: put it on a place of the plate that has one."));
        else {
            // The camera stands as high as that place is deep under the level.
            const float height = std::round(-d.y * distance * 100.f) / 100.f, rise = height - shot->camera.position.y;
            session_.document().edit(say("Camera height from the ground"), [&](scene::Project& project) {
                Camera raised = shot->camera;
                raised.position.y += rise;
                raised.aim.y += rise;
                elements::lookFrom(project, raised, session_.store());
            });
        }
    }
    heldMark_ = HeldMark::None;
}

void PictureView::drawTask(QPainter& p)
{
    if (brush_.isOn())
        brush_.paint(p, size(), cursor_);
    p.setRenderHint(QPainter::Antialiasing);
    const QColor accent("#B4C95A");
    if (session_.selection().task().what == Selection::Task::KnownLength) {
        const geometry::View view(session_.picture().camera(), width(), height());
        QPolygonF ends;
        for (const Vec3& v : lengthPoints_) {
            Vec2 q;
            float depth = 0.f;
            if (view.project(v, q, depth))
                ends << QPointF(double(q.x), double(q.y));
        }
        for (const auto& [colour, w] : {std::pair(QColor(0, 0, 0, 160), 3.4), std::pair(accent, 1.5)}) {
            p.setPen(QPen(colour, w));
            p.drawPolyline(ends);
            for (const QPointF& q : ends) {
                p.drawLine(q - QPointF(7, 0), q + QPointF(7, 0));
                p.drawLine(q - QPointF(0, 7), q + QPointF(0, 7));
            }
        }
    } else if (session_.selection().task().what == Selection::Task::Horizon) {
        const double left = 0.04 * width(), right = 0.96 * width();
        const QPointF g = groundMark();
        for (const auto& [colour, w] : {std::pair(QColor(0, 0, 0, 160), 3.4), std::pair(accent, 1.5)}) {
            p.setPen(QPen(colour, w));
            p.drawLine(QPointF(0, horizonY(0)), QPointF(width(), horizonY(width())));
            for (const double x : {left, right})
                p.drawLine(QPointF(x, horizonY(x) - 9), QPointF(x, horizonY(x) + 9));
            p.drawPolygon(QPolygonF{g + QPointF(0, -9), g + QPointF(9, 0), g + QPointF(0, 9), g + QPointF(-9, 0)});
            p.drawLine(g - QPointF(16, 0), g + QPointF(16, 0));
        }
        const auto shot = session_.picture().shot();
        const float d = session_.picture().distanceAt(groundMark_);
        p.setFont(figureFont(11));
        const auto word = [&](const QPointF& at, const QString& text) {
            const QRectF box(at, QSizeF(QFontMetrics(p.font()).horizontalAdvance(text) + 14, 20));
            p.fillRect(box, QColor(20, 21, 22, 200));
            p.setPen(QColor("#e6e6e4"));
            p.drawText(box, Qt::AlignCenter, text);
        };
        word(QPointF(left + 14, horizonY(left + 40) - 28), say("horizon"));
        if (shot && shot->camera.roll != 0.f)
            word(QPointF(right - 90, horizonY(right - 60) - 32),
                 say("roll %1").arg(QString::fromStdString(
                     formatQuantity(double(shot->camera.roll) * 180.0 / double(pi), Quantity::Angle))));
        if (shot)
            word(g + QPointF(18, 6),
                 say("ground, 0 m   %1 away   camera %2 up")
                     .arg(QString::fromStdString(formatQuantity(double(d), Quantity::Length)),
                          QString::fromStdString(formatQuantity(double(shot->camera.position.y), Quantity::Length))));
    }
}
} // namespace hygros::app
