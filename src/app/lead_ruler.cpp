#include "app/lead_ruler.h"

#include "app/theme.h"
#include "app/words.h"

#include <QKeyEvent>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QWheelEvent>
#include <cmath>

namespace hygros::app {
namespace {
constexpr int margin = 3, rulerY = 27;
}

LeadRuler::LeadRuler(const scene::Parameter& parameter, QWidget* parent)
    : QWidget(parent), parameter_(parameter), label_(QString::fromStdString(parameter.label))
{
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setObjectName(QString::fromStdString(parameter.id));
    const QString range = QString::fromStdString(parameter.rangeShown());
    setToolTip(QString::fromStdString(parameter.help) + (range.isEmpty() ? QString() : "\n" + range));
    setAccessibleName(label_);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void LeadRuler::setValue(double value)
{
    value_ = value;
    update();
}

void LeadRuler::setForm(const QString& label, std::function<QString(double)> shownAs,
                        std::function<std::optional<double>(const QString&)> read)
{
    label_ = label;
    form_ = std::move(shownAs);
    read_ = std::move(read);
    update();
}

QString LeadRuler::shown() const
{
    if (form_)
        return form_(value_);
    if (parameter_.type == scene::ValueType::Whole)
        return QString::number(static_cast<qlonglong>(value_));
    return QString::fromStdString(formatQuantity(value_, parameter_.quantity));
}

QRect LeadRuler::valueRect() const
{
    const int w = std::max(54, QFontMetrics(figureFont(12)).horizontalAdvance(shown()) + 10);
    return {width() - w, 0, w, 21};
}

int LeadRuler::rulerX(double position) const
{
    return margin + static_cast<int>(std::lround(std::clamp(position, 0.0, 1.0) * (width() - 2 * margin)));
}

void LeadRuler::paintEvent(QPaintEvent*)
{
    const Theme& t = Theme::now();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const bool active = hasFocus() || dragging_;
    p.setFont(textFont(12));
    p.setPen(t.quiet);
    const int marked = (mark_.keyed ? 10 : 0) + (mark_.stirred ? 11 : 0);
    if (marked)
        drawMark(p, QPointF(margin + 3, 7), mark_, t.accent);
    p.setPen(t.quiet);
    const int labelWidth = width() - valueRect().width() - margin - marked;
    p.drawText(QRect(margin + marked, 1, labelWidth, 19), Qt::AlignVCenter | Qt::AlignLeft,
               QFontMetrics(p.font()).elidedText(label_, Qt::ElideRight, labelWidth));
    if (!field_) {
        p.setFont(figureFont(12));
        p.setPen(isEnabled() ? t.text : t.faint);
        p.drawText(valueRect().adjusted(0, 1, -margin, 0), Qt::AlignVCenter | Qt::AlignRight, shown());
        if (hovered_) {
            p.setPen(QPen(t.faint, 1, Qt::DotLine));
            p.drawLine(valueRect().left() + 6, 20, width() - margin, 20);
        }
    }
    // The scale: a base line, tall ticks at decades (or fifths), short ones between.
    p.setRenderHint(QPainter::Antialiasing, false);
    p.setPen(t.rule);
    p.drawLine(margin, rulerY + 4, width() - margin, rulerY + 4);
    const auto tick = [&](double at, bool tall) {
        const double position = parameter_.rulerPosition(at);
        if (position < -0.001 || position > 1.001)
            return;
        p.setPen(tall ? t.quiet : t.rule);
        p.drawLine(rulerX(position), rulerY + (tall ? -3 : 1), rulerX(position), rulerY + 4);
    };
    if (parameter_.logarithmic) {
        const int first = static_cast<int>(std::floor(std::log10(parameter_.softMin))),
                  last = static_cast<int>(std::ceil(std::log10(parameter_.softMax)));
        for (int decade = first; decade <= last; ++decade)
            for (int k = 1; k < 10; ++k)
                if (k == 1 || last - first <= 4)
                    tick(std::pow(10.0, decade) * k, k == 1);
    } else {
        for (int i = 0; i <= 20; ++i)
            tick(parameter_.softMin + (parameter_.softMax - parameter_.softMin) * i / 20.0, i % 5 == 0);
    }
    // Between which values of keys it stands: their pins, and a line from one to the other.
    if (mark_.before || mark_.after) {
        const double now = parameter_.rulerPosition(value_);
        const auto at = [&](const std::optional<double>& v) {
            return rulerX(v ? parameter_.rulerPosition(*v) : now) + 0.5;
        };
        p.setRenderHint(QPainter::Antialiasing);
        p.setPen(QPen(t.accent, 1));
        p.drawLine(QPointF(at(mark_.before), rulerY - 5), QPointF(at(mark_.after), rulerY - 5));
        p.setBrush(t.accent);
        if (mark_.before)
            p.drawEllipse(QPointF(at(mark_.before), rulerY - 5), 1.8, 1.8);
        p.setBrush(Qt::NoBrush);
        if (mark_.after)
            p.drawEllipse(QPointF(at(mark_.after), rulerY - 5), 1.8, 1.8);
    }
    // The pointer: a triangle below, a line through the scale; hollow when the value lies beyond the scale's end.
    p.setRenderHint(QPainter::Antialiasing);
    const double position = parameter_.rulerPosition(value_);
    const int x = rulerX(position);
    const QColor colour = active ? t.accent : t.text;
    QPainterPath pointer;
    pointer.moveTo(x + 0.5, rulerY + 5);
    pointer.lineTo(x + 5, rulerY + 13);
    pointer.lineTo(x - 4, rulerY + 13);
    pointer.closeSubpath();
    p.setPen(QPen(colour, 1));
    p.drawLine(QPointF(x + 0.5, rulerY - 4), QPointF(x + 0.5, rulerY + 5));
    if (position >= 0.0 && position <= 1.0)
        p.fillPath(pointer, colour);
    p.drawPath(pointer);
    if (hasFocus()) {
        p.setPen(QPen(t.accent, 1));
        p.drawLine(margin, height() - 2, width() - margin, height() - 2);
    }
}

void LeadRuler::setMark(const MotionMark& mark)
{
    if (mark == mark_)
        return;
    mark_ = mark;
    update();
}

void LeadRuler::offer(double position, bool dragging)
{
    double v = std::clamp(parameter_.rulerValue(position), parameter_.hardMin, parameter_.hardMax);
    if (parameter_.type == scene::ValueType::Whole)
        v = std::round(v);
    else {
        // Keep what is shown and what is kept the same: four significant figures are finer than a hand.
        const double size = std::abs(v);
        if (size > 0.0) {
            const double unit = std::pow(10.0, std::floor(std::log10(size)) - 3);
            v = std::round(v / unit) * unit;
        }
    }
    if (v == value_)
        return;
    value_ = v;
    update();
    Q_EMIT valueEdited(v, dragging);
}

void LeadRuler::mousePressEvent(QMouseEvent* e)
{
    if (e->button() != Qt::LeftButton)
        return QWidget::mousePressEvent(e);
    setFocus(Qt::MouseFocusReason);
    if (valueRect().contains(e->pos())) {
        beginTyping();
        return;
    }
    if (e->pos().y() < 20) {
        Q_EMIT labelClicked();
        return;
    }
    dragging_ = true;
    pressX_ = e->pos().x();
    const double under = static_cast<double>(e->pos().x() - margin) / std::max(1, width() - 2 * margin);
    const int pointer = rulerX(parameter_.rulerPosition(value_));
    // Taking the pointer does not move it; pressing elsewhere brings it there.
    if (std::abs(pointer - e->pos().x()) > 7)
        offer(std::clamp(under, 0.0, 1.0), true);
    pressPosition_ = parameter_.rulerPosition(value_);
    update();
}

void LeadRuler::mouseMoveEvent(QMouseEvent* e)
{
    setCursor(valueRect().contains(e->pos()) ? Qt::IBeamCursor
                                             : (e->pos().y() >= 20 ? Qt::SizeHorCursor : Qt::ArrowCursor));
    if (!dragging_)
        return;
    const double scale = e->modifiers() & Qt::ShiftModifier ? 0.1 : 1.0;
    offer(pressPosition_ + scale * (e->pos().x() - pressX_) / std::max(1, width() - 2 * margin), true);
}

void LeadRuler::mouseReleaseEvent(QMouseEvent*)
{
    if (!dragging_)
        return;
    dragging_ = false;
    update();
    Q_EMIT editingEnded();
}

void LeadRuler::mouseDoubleClickEvent(QMouseEvent* e)
{
    if (valueRect().contains(e->pos()) || e->button() != Qt::LeftButton)
        return;
    const double v = parameter_.type == scene::ValueType::Whole
                         ? static_cast<double>(std::get<std::int64_t>(parameter_.fallback))
                         : std::get<double>(parameter_.fallback);
    value_ = v;
    update();
    Q_EMIT valueEdited(v, false);
    Q_EMIT editingEnded();
}

void LeadRuler::wheelEvent(QWheelEvent* e)
{
    if (!hasFocus())
        return e->ignore(); // the column scrolls; a ruler is only turned once it was chosen
    const double notch = e->angleDelta().y() / 120.0 * (e->modifiers() & Qt::ShiftModifier ? 0.002 : 0.01);
    offer(parameter_.type == scene::ValueType::Whole ? parameter_.rulerPosition(value_ + (notch > 0 ? 1 : -1))
                                                     : parameter_.rulerPosition(value_) + notch,
          true);
    e->accept();
}

void LeadRuler::keyPressEvent(QKeyEvent* e)
{
    const double step = e->modifiers() & Qt::ShiftModifier ? 0.002 : 0.01;
    const bool whole = parameter_.type == scene::ValueType::Whole;
    const auto by = [&](int sign) {
        offer(whole ? parameter_.rulerPosition(value_ + sign) : parameter_.rulerPosition(value_) + sign * step, true);
    };
    switch (e->key()) {
    case Qt::Key_Right:
    case Qt::Key_Up: by(1); break;
    case Qt::Key_Left:
    case Qt::Key_Down: by(-1); break;
    case Qt::Key_Return:
    case Qt::Key_Enter: beginTyping(); break;
    default:
        if (!e->text().isEmpty() && (e->text()[0].isDigit() || e->text()[0] == '-' || e->text()[0] == '.')) {
            beginTyping();
            field_->setText(e->text());
            break;
        }
        QWidget::keyPressEvent(e);
    }
}

void LeadRuler::beginTyping()
{
    if (field_)
        return;
    field_ = new QLineEdit(shown(), this);
    field_->setFont(figureFont(12));
    field_->setAlignment(Qt::AlignRight);
    field_->setFrame(false);
    field_->setTextMargins(2, 0, 2, 0);
    const int w = std::min(width(), std::max(84, valueRect().width()));
    field_->setGeometry(width() - w, 0, w, 21);
    field_->selectAll();
    field_->show();
    field_->setFocus();
    connect(field_, &QLineEdit::returnPressed, this, [this] { finishTyping(true); });
    connect(field_, &QLineEdit::editingFinished, this, [this] { finishTyping(true); });
}

void LeadRuler::finishTyping(bool take)
{
    if (!field_)
        return;
    QLineEdit* field = field_;
    field_ = nullptr; // editingFinished may come again while the field goes
    const QString text = field->text();
    field->hide();
    field->deleteLater();
    update();
    if (!take || text == shown())
        return;
    try {
        if (read_)
            if (const auto v = read_(text)) {
                parameter_.checked(parameter_.type == scene::ValueType::Whole ? scene::Value(std::int64_t(*v))
                                                                              : scene::Value(*v));
                value_ = *v;
                Q_EMIT valueEdited(*v, false);
                Q_EMIT editingEnded();
                return;
            }
        const scene::Value v = parameter_.parsed(text.toStdString());
        value_ = std::holds_alternative<double>(v) ? std::get<double>(v)
                                                   : static_cast<double>(std::get<std::int64_t>(v));
        Q_EMIT valueEdited(value_, false);
        Q_EMIT editingEnded();
    } catch (const std::invalid_argument& bad) {
        Q_EMIT refused(say("%1. It stays %2.").arg(troubleOf(bad), shown()));
    }
    update();
}

void LeadRuler::enterEvent(QEnterEvent*) { hovered_ = true, update(); }
void LeadRuler::leaveEvent(QEvent*) { hovered_ = false, update(); }
void LeadRuler::focusInEvent(QFocusEvent*) { update(); }
void LeadRuler::focusOutEvent(QFocusEvent*)
{
    Q_EMIT editingEnded();
    update();
}
} // namespace hygros::app
