#pragma once
/// The Picture. Left drag turns about the point under the cursor, right drag moves sideways, the wheel goes nearer or
/// farther: all of it a free look that leaves the shot alone; a button or Home goes back. A click drops a pin, whose
/// line of sight the Sounding shows.
#include "app/picture_brush.h"
#include "app/picture_compare.h"
#include "app/picture_handles.h"
#include "app/picture_path.h"
#include "app/picture_zoom.h"

#include <QWidget>
#include <array>

class QLabel;
class QLineEdit;
class QPushButton;

namespace hygros::app {

struct ShareMap;

class PictureView : public QWidget {
    Q_OBJECT
public:
    explicit PictureView(Session& session, QWidget* parent = nullptr);
    /// Everything drawn over the picture that is not the picture.
    void setAids(bool shown);
    bool aids() const { return aids_; }
    const PictureHandles& handles() const { return handles_; }
    /// Row of the horizon in this widget, at a column or in the middle; far outside when it is not in the picture.
    double horizonY(double x) const;
    double horizonY() const;
    QPointF groundMark() const { return QPointF(groundMark_.x() * width(), groundMark_.y() * height()); }
    /// Where the live picture ends and the reference begins while both are shown [pixels].
    double seam() const { return seam_ * width(); }
    const PicturePath& path() const { return path_; }
    const PictureBrush& brush() const { return brush_; }
    const PictureCompare& compare() const { return compare_; }
    PictureZoom& zoom() { return zoom_; }
    QSize minimumSizeHint() const override { return {480, 270}; }

public Q_SLOTS:
    void returnToShot();
    void takeAsShot();

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void leaveEvent(QEvent*) override;

private:
    void lookFrom(const geometry::Camera& camera);
    void drawAids(QPainter& painter);
    void drawTracers(QPainter& painter);
    void drawForces(QPainter& painter);
    void drawShares(QPainter& painter, const ShareMap& map);
    void drawPins(QPainter& painter);
    void drawTask(QPainter& painter);
    void buildTaskBar(const QString& style);
    void changeTask();
    bool pressTask(const QPointF& p, Qt::KeyboardModifiers modifiers);
    bool pressPlace(const QPointF& p);
    void dragTask(const QPointF& p);
    void releaseTask();
    void takeLength();
    void fitTask();
    /// The picture in a few flat greys.
    QImage inFlatTones(const QImage& image, int tones) const;
    /// Distance to the surface under a position [m]; the distance to the aim where there is none.
    float distanceAt(const QPoint& p);

    Session& session_;
    PictureHandles handles_;
    PicturePath path_;
    PictureBrush brush_;
    PictureCompare compare_;
    PictureZoom zoom_;
    PictureHandles::Part litHandle_ = PictureHandles::Part::None;
    // The task in work: its words and its end; the two points of a known length; what is held of horizon and ground.
    QWidget* taskBar_;
    QLabel* taskText_;
    QLineEdit* lengthField_;
    std::vector<Vec3> lengthPoints_;
    QPointF groundMark_{0.5, 0.82};
    enum class HeldMark { None, Horizon, Tilt, Ground } heldMark_ = HeldMark::None;
    double middleRow_ = 0.0; ///< of the horizon when it was taken hold of
    int taskGesture_ = 0;
    QPushButton *back_, *take_;
    void drawReference(QPainter& painter);
    double seam_ = 0.5; ///< of the width
    bool heldSeam_ = false;
    std::array<QPushButton*, 3> which_{}; ///< live, both, reference
    bool aids_ = true;
    Qt::MouseButton button_ = Qt::NoButton;
    QPoint last_, press_, cursor_{-1, -1};
    Vec3 pivot_{0.f, 0.f, 0.f};
    float pivotDistance_ = 10.f;
};
} // namespace hygros::app
