#pragma once
/// One number on a thin ruled scale: label at the left, value with its unit at the right (typed in place), ticks
/// below with a pointer under them. Drag, wheel, arrows, double-click to reset, Shift for fine steps.
#include "app/key_marks.h"

#include <QWidget>

class QLineEdit;

namespace hygros::app {

class LeadRuler : public QWidget {
    Q_OBJECT
public:
    /// `parameter` (a Number or Whole) must outlive the widget.
    explicit LeadRuler(const scene::Parameter& parameter, QWidget* parent = nullptr);
    const scene::Parameter& parameter() const { return parameter_; }
    double value() const { return value_; }
    /// Shows a value; does not announce it.
    void setValue(double value);
    /// How the number is written; empty texts fall back to the parameter's own form.
    void setForm(const QString& label, std::function<QString(double)> shown,
                 std::function<std::optional<double>(const QString&)> read);
    /// How it changes over time, where one stands.
    void setMark(const MotionMark& mark);
    /// Opens the field for typing.
    void beginTyping();
    QSize sizeHint() const override { return {136, 44}; }
    QSize minimumSizeHint() const override { return {110, 44}; }

Q_SIGNALS:
    void valueEdited(double value, bool dragging); ///< dragging: more of the same gesture may follow
    void editingEnded();
    void refused(const QString& message);
    void labelClicked();

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void enterEvent(QEnterEvent*) override;
    void leaveEvent(QEvent*) override;
    void focusInEvent(QFocusEvent*) override;
    void focusOutEvent(QFocusEvent*) override;

private:
    QString shown() const;
    QRect valueRect() const;
    int rulerX(double position) const;
    void offer(double position, bool dragging);
    void finishTyping(bool take);

    const scene::Parameter& parameter_;
    double value_ = 0.0;
    QString label_;
    MotionMark mark_;
    std::function<QString(double)> form_;
    std::function<std::optional<double>(const QString&)> read_;
    QLineEdit* field_ = nullptr;
    bool dragging_ = false, hovered_ = false;
    int pressX_ = 0;
    double pressPosition_ = 0.0;
};
} // namespace hygros::app
