#pragma once
/// The Transect: distance across (logarithmic or even), height up; the set's outline, the air as it is at this frame,
/// the lamps, how far one sees, the planes' borders and the transmittance curve. The section goes through the Picture's
/// column under the cursor; the curve is then that of the line of sight, from the renderer itself.
///
/// Handles: distances and heights of the selected element, and of every other its most important ones. The wheel zooms
/// distance, with Shift height; a right or middle drag pans; a double click shows all again; L changes the scale.
///
/// *slice* cuts a plume instead: one of its numbers as colour, its flow as arrows, through its middle.
#include "app/session.h"
#include "reading/transect.h"
#include "sim/smoke/slice.h"

#include <QWidget>
#include <cmath>

class QPushButton;

namespace hygros::app {

class GasSlice;

class TransectView : public QWidget {
    Q_OBJECT
public:
    explicit TransectView(Session& session, QWidget* parent = nullptr);
    /// Where a handle stands in this widget; null when there is none.
    QPointF handlePosition(const std::string& element, const std::string& parameter) const;
    /// The shown distances [m] and heights [m].
    double nearest() const { return nearest_; }
    double farthest() const { return farthest_; }
    double lowest() const { return lowest_; }
    double highest() const { return highest_; }
    bool isLogarithmic() const { return logarithmic_; }
    void setLogarithmic(bool on);
    void showAll();
    /// Transmittance of the curve at a distance, as drawn.
    double transmittanceAt(double distance) const;
    /// What is shown of the chosen plume, else of the first; nothing: no slice.
    void setSlice(std::optional<sim::Quality> quality);
    /// By the name in the menu; nothing for others.
    static std::optional<sim::Quality> qualityNamed(const QString& name);
    /// What the slice has at a place of this widget, in words; empty where there is none.
    QString sliceAt(const QPointF& at) const;
    QSize sizeHint() const override { return {600, 212}; }
    QSize minimumSizeHint() const override { return {360, 170}; }

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void leaveEvent(QEvent*) override;

private:
    struct Handle {
        std::string element, parameter;
        QPointF at;
        bool vertical;     ///< dragged up and down, else along
        double zero = 0.0; ///< height that the parameter is measured from
        bool lamp = false; ///< of a lamp: dragged both ways
    };
    /// A lamp in metres of distance and height.
    struct LampDrawing {
        QPointF from, foot, along, across; ///< the lamp, where it shines; unit vectors down and across the beam
        double length = 0.0, wide = 0.0;   ///< to the foot; half the beam there
        Vec3 heading{0.f};                 ///< away from the camera
    };
    std::optional<LampDrawing> drawingOf(const light::Lamp& lamp) const;
    void addLampHandles(std::vector<Handle>& all) const;
    void dragLamp(const QPointF& p);
    QRectF plot() const;
    double xOf(double distance) const;
    double distanceOf(double x) const;
    double yOf(double height) const;
    double heightOf(double y) const;
    std::vector<Handle> handles() const;
    /// Height of the ground under a bank that lies on it, at a column of the drawing.
    double groundUnder(const std::string& element, double column) const;
    const Handle* handleAt(const std::vector<Handle>& all, const QPointF& p) const;
    void rangeChanged();
    void measure();
    void buildSlice();
    const scene::Element* slicedElement() const;
    /// The range that shows an element's box.
    bool frameSlice(const std::string& element);
    void askSlice();
    void drawSlice(QPainter& p);
    void drawSliceKey(QPainter& p);
    void drawAir(QPainter& p);
    void drawOutline(QPainter& p);
    void drawWater(QPainter& p);
    void drawLamps(QPainter& p);
    void drawMarks(QPainter& p);
    void drawTracers(QPainter& p);
    void drawForces(QPainter& p);
    void drawAxes(QPainter& p);
    void drawCursor(QPainter& p, const QString& reads);
    void drawHandles(QPainter& p);
    std::string elementAt(const QPointF& p) const;
    /// Extinctions of the reading's grid as a picture of one hue.
    QImage drawn(const QColor& hue, const std::function<float(std::size_t)>& sigmaAt) const;
    /// One element's air, drawn when it is first pointed at; null when it has none here.
    const QImage* airOf(const std::string& element);

    static constexpr int rows = 72, columns = 260; ///< of what is measured of the air
    /// Heights are drawn by asinh: metres near the ground have room, tree tops still fit.
    /// Of a slice they are even, as its distances are.
    double bend(double h) const { return quality_ ? h : std::asinh(h / 2.5); }
    double unbent(double b) const { return quality_ ? b : 2.5 * std::sinh(b); }
    Session& session_;
    reading::Transect reading_;
    QImage air_;
    std::map<std::string, QImage> airOf_;
    std::shared_ptr<const geometry::RayScene> outlined_;
    geometry::Camera outlinedFrom_;
    float across_ = 0.5f, outlinedAcross_ = -1.f;
    bool outlinedLog_ = true;
    double nearest_ = 1.0, farthest_ = 4000.0, lowest_ = -3.0, highest_ = 60.0;
    bool logarithmic_ = true, ranged_ = false; ///< ranged: the artist has chosen what is shown
    QPushButton *scale_, *all_, *slicing_;
    GasSlice* slice_ = nullptr;
    std::optional<sim::Quality> quality_;
    bool wasLogarithmic_ = true; ///< before there was a slice
    bool unframed_ = false;      ///< a slice that waits for the frame its plume is in, to show all of it
    QPointF cursor_{-1, -1}, pannedFrom_;
    bool panning_ = false;
    std::string heldElement_, heldParameter_;
    double heldZero_ = 0.0;
    bool heldVertical_ = false, heldLamp_ = false;
    int gesture_ = 0;
};
} // namespace hygros::app
