#pragma once
/// The Motion page: a lane for each parameter that has keys or stirs, on one scale of frames. A lane shows its keys as
/// pins; opened by its name it shows the curve, with what stirs make of it. Keys are chosen by clicks or a frame drawn
/// around them, dragged in time (and in an open lane in value), stretched about the play head by the grips over them,
/// copied to another element, typed.
#include "app/probe_curve.h"
#include "scene/key_edit.h"

#include <QWidget>
#include <optional>

class QCheckBox;
class QComboBox;
class QLineEdit;

namespace hygros::app {

class MotionView : public QWidget {
    Q_OBJECT
public:
    explicit MotionView(Session& session, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 170}; }

    const scene::KeyPlaces& chosenKeys() const { return chosen_; }
    /// Where a key's pin or point is drawn; nothing where its lane is not in sight.
    std::optional<QPointF> placeOf(const scene::KeyPlace& key) const;
    /// A lane's name, to be clicked: it opens and closes the lane.
    std::optional<QRectF> nameOf(const std::string& element, const std::string& parameter) const;
    bool isOpen(const std::string& element, const std::string& parameter) const;
    /// The grips that stretch what is chosen: before its first and after its last key.
    std::optional<QPointF> grip(bool last) const;
    double xOf(double frame) const;
    double frameAt(double x) const;
    const ProbeCurve& probe() const { return probe_; }
    /// Where what a chosen probe reads is drawn, under the lanes.
    QRectF probePlot() const;
    /// Lanes, without header and names.
    QRectF plot() const;

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    bool event(QEvent* event) override;

private:
    static constexpr double nameWidthShown = 176.0, headerShown = 30.0, scaleShown = 20.0, thinLane = 22.0;
    using LaneId = std::pair<std::string, std::string>;
    struct Lane {
        LaneId id;
        const scene::Parameter* parameter = nullptr;
        QRectF rect;
        bool open = false;
        double low = 0.0, high = 1.0; ///< what an open lane spans, as rulerPosition() counts
        double yOf(double value) const;
        double valueAt(double y) const;
    };
    /// A point of a curve: key, and which number of it.
    struct Hit {
        scene::KeyPlace key;
        int component = 0;
    };
    void pull();
    void layOut();
    void layHeader();
    const scene::Element* elementOf(const Lane& lane) const { return whole_.find(lane.id.first); }
    const Lane* laneAt(const QPointF& place) const;
    const Lane* laneOf(const LaneId& id) const;
    std::optional<Hit> keyAt(const QPointF& place) const;
    int numbersIn(const Lane& lane) const;
    static double number(const scene::Value& v, int component);
    static scene::Value withNumber(const scene::Value& v, int component, double number);
    void span(Lane& lane) const;
    void drawLane(QPainter& p, const Lane& lane);
    void drawCurve(QPainter& p, const Lane& lane);
    void drawKeys(QPainter& p, const Lane& lane);
    void drawScale(QPainter& p);
    void drawProbe(QPainter& p);
    /// The ends of a key's slope handles in an open lane: what comes in, what goes out.
    std::optional<QPointF> slopeHandle(const Lane& lane, const scene::KeyPlace& key, int component, bool out) const;
    void dragKeys(const QPointF& to);
    void dragSlope(const QPointF& to);
    void change(const QString& what, const std::function<scene::KeyPlaces(scene::Project&)>& edit,
                const QString& merge = {});
    void typed(QLineEdit* field);
    void showChosen();
    void copy();
    void paste();
    void setWay(scene::Way way);

    Session& session_;
    ProbeCurve probe_;
    scene::Project whole_; ///< as last pulled
    std::vector<Lane> lanes_;
    std::set<LaneId> open_;
    bool opened_ = false; ///< by hand
    double scrolled_ = 0.0, height_ = 0.0;
    double from_ = 1.0, to_ = 100.0;
    bool zoomed_ = false;
    scene::KeyPlaces chosen_;
    QLineEdit *frameField_, *valueField_;
    QComboBox* wayField_;
    QCheckBox* snap_;

    enum class Drag { None, Head, Keys, Around, Stretch, Slope, Pan } drag_ = Drag::None;
    QPointF pressed_, around_;
    Hit held_;
    bool slopeOut_ = false, moved_ = false, lastGrip_ = false;
    scene::Project before_; ///< where a drag began
    scene::KeyPlaces chosenBefore_;
    std::optional<Lane> dragLane_; ///< its span stays while one drags
    int gesture_ = 0;
};
} // namespace hygros::app
