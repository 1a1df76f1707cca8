#pragma once
/// Match to a photograph: three boxes on it say what stands near, farther and far; exposure, neutral point and one
/// element's visibility are fitted to their tones (reading/match.h), looked at, and taken over as one step.
#include "app/session.h"
#include "reading/match.h"

#include <QDialog>
#include <QPointer>

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;

namespace hygros::app {

/// The photograph with a box for each plane; a box is moved by its middle and drawn out by its corners, or with the
/// arrows (with Shift: its size) once 1, 2 or 3 has chosen it.
class PlaneBoxes : public QWidget {
    Q_OBJECT
public:
    static constexpr const char* names[] = {QT_TRANSLATE_NOOP("window", "near"), QT_TRANSLATE_NOOP("window", "farther"),
                                            QT_TRANSLATE_NOOP("window", "far")};
    explicit PlaneBoxes(QWidget* parent = nullptr);
    void setPicture(const QImage& image);
    const QImage& picture() const { return image_; }
    reading::ShownTones tones() const;
    const reading::Region& box(int plane) const { return boxes_[static_cast<std::size_t>(plane)]; }
    void setBox(int plane, const reading::Region& box);
    /// Where a box lies in this widget.
    QRectF boxPlace(int plane) const;
    QSize sizeHint() const override { return {430, 270}; }

Q_SIGNALS:
    void changed();

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent* e) override;

private:
    QRectF place() const;
    QImage image_;
    std::array<reading::Region, 3> boxes_{reading::Region{0.3f, 0.72f, 0.7f, 0.94f},
                                          reading::Region{0.3f, 0.46f, 0.7f, 0.62f},
                                          reading::Region{0.3f, 0.24f, 0.7f, 0.36f}};
    int chosen_ = 0, corner_ = -1; ///< corner: 0…3, 4 the middle, −1 nothing held
    QPointF from_;
    reading::Region was_;
};

class MatchDialog : public QDialog {
    Q_OBJECT
public:
    explicit MatchDialog(Session& session, QWidget* parent = nullptr);
    ~MatchDialog() override;
    /// False and a message where it is no picture.
    bool usePhotograph(const QString& file);
    PlaneBoxes& boxes() { return *boxes_; }
    const std::optional<reading::Match>& found() const { return found_; }

private:
    void match();
    void take();
    void renew();
    Session& session_;
    PlaneBoxes* boxes_;
    QWidget* ladder_;
    QLabel *name_, *words_;
    QCheckBox *exposure_, *neutral_;
    QComboBox* element_;
    QPushButton *go_, *take_;
    reading::ShownTones wanted_{};
    std::optional<reading::Match> found_;
    int job_ = 0;
};
} // namespace hygros::app
