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

PictureView::PictureView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), handles_(session), path_(session), brush_(session), compare_(session, *this),
      zoom_(session, *this)
{
    setObjectName("picture");
    setFocusPolicy(Qt::ClickFocus);
    setMouseTracking(true);
    setAttribute(Qt::WA_OpaquePaintEvent);
    setAccessibleName(say("Picture"));
    const QString style =
        "QPushButton{background:rgba(20,21,22,200);border:1px solid #6c7072;color:#e6e6e4;padding:3px 9px}"
        "QPushButton:hover,QPushButton:focus{border-color:#B4C95A}";
    back_ = new QPushButton(say("Back to the shot"), this);
    take_ = new QPushButton(say("Make this the shot"), this);
    for (QPushButton* b : {back_, take_}) {
        b->setStyleSheet(style);
        b->hide();
    }
    back_->setObjectName("backToShot");
    take_->setObjectName("takeAsShot");
    connect(back_, &QPushButton::clicked, this, &PictureView::returnToShot);
    connect(take_, &QPushButton::clicked, this, &PictureView::takeAsShot);
    const char* const names[] = {QT_TRANSLATE_NOOP("window", "Live"), QT_TRANSLATE_NOOP("window", "Both"),
                                 QT_TRANSLATE_NOOP("window", "Reference")};
    const char* const tips[] = {
        QT_TRANSLATE_NOOP("window", "The live picture"),
        QT_TRANSLATE_NOOP("window",
                          "The live picture at the left of a line that you can drag, the reference at its right"),
        QT_TRANSLATE_NOOP("window", "Path-traced: slow and without approximations. It begins once the live picture is "
                                    "clean and goes on until its noise is low")};
    for (int i = 0; i < 3; ++i) {
        auto* b = which_[static_cast<std::size_t>(i)] = new QPushButton(say(names[i]), this);
        b->setObjectName(QString("show%1").arg(names[i]));
        b->setToolTip(say(tips[i]));
        b->setCheckable(true);
        b->setChecked(i == 0);
        b->setStyleSheet(
            "QPushButton{background:rgba(20,21,22,150);border:none;border-bottom:2px solid "
            "transparent;color:#b9bcbb;padding:2px 8px}"
            "QPushButton:hover{color:#ffffff}QPushButton:focus{border-bottom-color:#8b8f8d}QPushButton:"
            "checked{color:#e6e6e4;border-bottom-color:#B4C95A}QPushButton:focus{background:rgba(20,21,22,235)}");
        connect(b, &QPushButton::clicked, this,
                [this, i] { session_.reference().setShown(static_cast<Reference::Shown>(i)); });
    }
    connect(&session.reference(), &Reference::referenceChanged, this, [this] {
        for (std::size_t i = 0; i < 3; ++i)
            which_[i]->setChecked(static_cast<std::size_t>(session_.reference().shown()) == i);
        update();
    });
    buildTaskBar(style);
    connect(&session.readings(), &Readings::sightChanged, this, qOverload<>(&QWidget::update));
    connect(&session.selection(), &Selection::cursorDistanceChanged, this, qOverload<>(&QWidget::update));
    connect(&session.selection(), &Selection::taskChanged, this, &PictureView::changeTask);
    connect(&session.picture(), &Picture::pictureChanged, this, qOverload<>(&QWidget::update));
    connect(&session.document(), &Document::frameChanged, this, qOverload<>(&QWidget::update)); // kept ones are shown
    connect(&session.readings(), &Readings::readingsChanged, this, qOverload<>(&QWidget::update));
    connect(&session.selection(), &Selection::hoveredChanged, this, [this] {
        const bool away = session_.picture().freeCamera().has_value();
        back_->setVisible(away && aids_);
        take_->setVisible(away && aids_);
        update();
    });
    connect(&session.picture(), &Picture::cameraChanged, this, [this] {
        const bool away = session_.picture().freeCamera().has_value();
        back_->setVisible(away && aids_);
        take_->setVisible(away && aids_);
        update();
    });
    connect(&session.document(), &Document::projectReplaced, this, [this] {
        back_->hide();
        take_->hide();
    });
}

void PictureView::setAids(bool shown)
{
    aids_ = shown;
    back_->setVisible(shown && session_.picture().freeCamera());
    take_->setVisible(shown && session_.picture().freeCamera());
    for (QPushButton* b : which_)
        b->setVisible(shown);
    zoom_.setShown(shown);
    update();
}

void PictureView::returnToShot() { session_.picture().setFreeCamera(std::nullopt); }

void PictureView::takeAsShot()
{
    const auto camera = session_.picture().freeCamera();
    if (!camera)
        return;
    session_.document().edit(say("Make this the shot"),
                             [&](scene::Project& p) { elements::lookFrom(p, *camera, session_.store()); });
    session_.picture().setFreeCamera(std::nullopt);
}

void PictureView::resizeEvent(QResizeEvent*)
{
    session_.picture().setSize(size());
    back_->move(12, 12);
    take_->move(12 + back_->sizeHint().width() + 8, 12);
    int right = width() - 8;
    for (std::size_t i = 3; i-- > 0;) {
        which_[i]->resize(which_[i]->sizeHint());
        right -= which_[i]->width();
        which_[i]->move(right, 8);
    }
    compare_.place();
    fitTask();
    zoom_.place(right);
}

void PictureView::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const QImage kept = session_.player().shown();
    const QImage& image = kept.isNull() ? session_.picture().state().image : kept;
    if (image.isNull()) {
        p.fillRect(rect(), QColor("#1d1e1f"));
        return;
    }
    // Enlarged, pixels are shown as such.
    p.setRenderHint(QPainter::SmoothPixmapTransform,
                    image.size() != size() &&
                        (session_.picture().zoom() < 2 || image.size() != session_.picture().drawnSize()));
    QRect into = rect();
    if (!kept.isNull() && kept.size() != size()) { // drawn when the window was of another size
        p.fillRect(rect(), QColor("#1d1e1f"));
        into.setSize(kept.size().scaled(size(), Qt::KeepAspectRatio));
        into.moveCenter(rect().center());
    }
    const auto draw = [&](const QImage& what) {
        // A kept run is of whole pictures.
        const QRectF part = kept.isNull() ? QRectF(0, 0, 1, 1) : session_.picture().shownPart();
        p.drawImage(into, session_.picture().valueStudy() ? inFlatTones(what, session_.picture().valueStudy()) : what,
                    QRectF(part.x() * what.width(), part.y() * what.height(), part.width() * what.width(),
                           part.height() * what.height())
                        .toRect());
    };
    const QRectF region = session_.picture().region();
    const QImage& reference = session_.reference().state().image;
    if (session_.reference().shown() != Reference::Shown::Reference || reference.isNull() || !kept.isNull())
        draw(image);
    zoom_.paintRegion(p);
    if (kept.isNull() && session_.reference().shown() != Reference::Shown::Live && !reference.isNull()) {
        p.save();
        if (session_.reference().state().firstLook)
            p.setRenderHint(QPainter::SmoothPixmapTransform);
        if (session_.reference().shown() == Reference::Shown::Both)
            p.setClipRect(QRectF(seam(), 0, width() - seam(), height()));
        if (!region.isNull())
            p.drawImage(QRectF(region.x() * width(), region.y() * height(), region.width() * width(),
                               region.height() * height()),
                        reference);
        else
            draw(reference);
        p.restore();
    }
    if (kept.isNull() && compare_.paint(p, into, image)) {
        zoom_.paint(p);
        return drawTask(p);
    }
    if (aids_) {
        drawTracers(p);
        drawForces(p);
        drawAids(p);
        drawPins(p);
        if (session_.selection().task().what == Selection::Task::Nothing) {
            path_.paint(p, size());
            handles_.paint(p, size(), litHandle_);
        }
    }
    if (session_.reference().shown() != Reference::Shown::Live)
        drawReference(p);
    zoom_.paint(p);
    drawTask(p);
}

double PictureView::horizonY(double x) const
{
    // Where lines of sight are level.
    const geometry::View view(session_.picture().camera(), width(), height());
    const double rises = double(view.up().y), aside = x - double(view.middle().x);
    if (std::abs(rises) < 1e-3)
        return -1e6;
    return double(view.middle().y) +
           (double(view.forward().y) / double(view.pixelAngle()) + double(view.right().y) * aside) / rises;
}

double PictureView::horizonY() const { return horizonY(0.5 * width()); }

float PictureView::distanceAt(const QPoint& p)
{
    const float d = session_.picture().distanceAt(QPointF((p.x() + 0.5) / width(), (p.y() + 0.5) / height()));
    const Camera c = session_.picture().camera();
    return d > 0.f && d < 3000.f ? d : std::max(1.f, (c.aim - c.position).length());
}

void PictureView::lookFrom(const Camera& camera) { session_.picture().setFreeCamera(camera); }

void PictureView::mousePressEvent(QMouseEvent* e)
{
    if (zoom_.press(e->position(), e->button()) || (e->button() == Qt::LeftButton && compare_.press(e->position())))
        return;
    if (e->button() == Qt::LeftButton && session_.reference().shown() == Reference::Shown::Both &&
        std::abs(e->position().x() - seam()) < 7.0) {
        heldSeam_ = true;
        return;
    }
    if (e->button() == Qt::LeftButton &&
        (pressTask(e->position(), e->modifiers()) ||
         (aids_ && (handles_.press(e->position(), size()) || path_.press(e->position(), size())))))
        return;
    button_ = e->button();
    last_ = press_ = e->pos();
    pivotDistance_ = std::clamp(distanceAt(e->pos()), 0.5f, 200.f);
    const geometry::View view(session_.picture().camera(), width(), height());
    pivot_ = view.position() +
             view.direction(static_cast<float>(e->pos().x()), static_cast<float>(e->pos().y())) * pivotDistance_;
}

void PictureView::mouseMoveEvent(QMouseEvent* e)
{
    cursor_ = e->pos();
    if (compare_.isHeld())
        return compare_.drag(e->position());
    if (zoom_.drag(e->position()))
        return;
    if (button_ == Qt::NoButton && compare_.isAt(e->position()))
        return setCursor(Qt::SizeAllCursor);
    if (heldSeam_) {
        seam_ = std::clamp(e->position().x() / std::max(1, width()), 0.0, 1.0);
        update();
        return;
    }
    if (button_ == Qt::NoButton && session_.reference().shown() == Reference::Shown::Both &&
        std::abs(e->position().x() - seam()) < 7.0) {
        setCursor(Qt::SplitHCursor);
        return;
    }
    if (brush_.isHeld()) {
        brush_.drag(e->position(), size());
        update();
        return;
    }
    if (handles_.isHeld() || path_.isHeld() || heldMark_ != HeldMark::None) {
        if (path_.isHeld())
            path_.drag(e->position(), size(), e->modifiers() & Qt::ShiftModifier);
        else if (handles_.isHeld())
            handles_.drag(e->position(), size());
        else
            dragTask(e->position());
        update();
        return;
    }
    if (button_ == Qt::NoButton) {
        litHandle_ = aids_ && !brush_.isOn() ? handles_.partAt(e->position(), size()) : PictureHandles::Part::None;
        const bool onPath = aids_ && path_.keyAt(e->position(), size());
        setCursor(onPath || litHandle_ != PictureHandles::Part::None                 ? Qt::PointingHandCursor
                  : session_.selection().task().what == Selection::Task::KnownLength ? Qt::CrossCursor
                                                                                     : Qt::ArrowCursor);
        session_.selection().setCursorPlace(
            QPointF((e->position().x() + 0.5) / width(), (e->position().y() + 0.5) / height()));
        update();
        return;
    }
    if ((e->pos() - press_).manhattanLength() < 4 && !session_.picture().freeCamera())
        return; // a click is not a drag
    const QPoint by = e->pos() - last_;
    last_ = e->pos();
    Camera c = session_.picture().camera();
    const geometry::View view(c, width(), height());
    if (button_ == Qt::LeftButton || button_ == Qt::MiddleButton) {
        // As far to the side and down as it is for what stands upright.
        const float cosine = std::cos(c.roll), sine = std::sin(c.roll), x = static_cast<float>(by.x()),
                    y = static_cast<float>(by.y());
        const float yaw = -(x * cosine - y * sine) * 0.005f;
        float pitch = -(x * sine + y * cosine) * 0.005f;
        // Never over the top: the view stays within 85° of level.
        const float now = std::asin(std::clamp(view.forward().y, -1.f, 1.f));
        pitch = std::clamp(now + pitch, -1.48f, 1.48f) - now;
        const auto turned = [&](Vec3 v) {
            const Vec3 right = view.right() * cosine + view.up() * sine; // level
            v = v * std::cos(pitch) + right.cross(v) * std::sin(pitch) +
                right * (right.dot(v) * (1.f - std::cos(pitch)));
            return Vec3(v.x * std::cos(yaw) + v.z * std::sin(yaw), v.y, -v.x * std::sin(yaw) + v.z * std::cos(yaw));
        };
        const Vec3 offset = turned(c.position - pivot_), aim = turned(c.aim - c.position);
        c.position = pivot_ + offset;
        c.aim = c.position + aim;
    } else {
        const float metres = pivotDistance_ * view.pixelAngle();
        const Vec3 move = view.right() * (-static_cast<float>(by.x()) * metres) +
                          view.up() * (static_cast<float>(by.y()) * metres);
        c.position += move;
        c.aim += move;
    }
    lookFrom(c);
}

void PictureView::mouseReleaseEvent(QMouseEvent* e)
{
    if (zoom_.release() || compare_.release() || std::exchange(heldSeam_, false))
        return;
    if (brush_.isHeld()) {
        brush_.release();
        taskText_->setText(brush_.words());
        fitTask();
        update();
        return;
    }
    if (handles_.isHeld())
        return handles_.release();
    if (path_.isHeld())
        return path_.release();
    if (heldMark_ != HeldMark::None)
        return releaseTask();
    const bool click = button_ == Qt::LeftButton && (e->pos() - press_).manhattanLength() < 4;
    button_ = Qt::NoButton;
    if (session_.selection().task().what != Selection::Task::Nothing)
        return;
    if (!click || session_.picture().state().image.isNull())
        return;
    for (std::size_t i = 0; i < session_.readings().pins().size(); ++i) {
        const QPointF at = zoom_.placeOf(session_.readings().pins()[i]);
        if (QLineF(at, e->position()).length() < 9 || QLineF(at - QPointF(0, 26), e->position()).length() < 9)
            return session_.readings().choosePin(static_cast<int>(i));
    }
    session_.readings().addPin(
        session_.picture().toWhole(QPointF((e->position().x() + 0.5) / width(), (e->position().y() + 0.5) / height())));
}

void PictureView::wheelEvent(QWheelEvent* e)
{
    if (brush_.isOn() && (e->modifiers() & Qt::ControlModifier)) {
        brush_.resize(e->angleDelta().y() / 120.0);
        update();
        return;
    }
    if (e->modifiers() & Qt::ControlModifier)
        return zoom_.step(e->angleDelta().y() > 0 ? 1 : -1, e->position());
    Camera c = session_.picture().camera();
    const float distance = std::clamp(distanceAt(e->position().toPoint()), 0.5f, 200.f);
    const geometry::View view(c, width(), height());
    const Vec3 toward = view.direction(static_cast<float>(e->position().x()), static_cast<float>(e->position().y()));
    const Vec3 move = toward * (distance * 0.12f * static_cast<float>(e->angleDelta().y()) / 120.f);
    c.position += move;
    c.aim += move;
    lookFrom(c);
}

void PictureView::keyPressEvent(QKeyEvent* e)
{
    if (e->key() == Qt::Key_Escape && session_.selection().task().what != Selection::Task::Nothing)
        return session_.selection().begin({});
    if (e->key() == Qt::Key_Escape && !session_.picture().region().isNull())
        return session_.picture().setRegion({});
    if (e->key() == Qt::Key_Home)
        return returnToShot();
    QWidget::keyPressEvent(e);
}

void PictureView::leaveEvent(QEvent*)
{
    cursor_ = {-1, -1};
    session_.selection().setCursorPlace({-1, -1});
    update();
}
} // namespace hygros::app
