#include "app/time_dialog.h"

#include "app/editors.h"
#include "app/theme.h"
#include "app/words.h"

#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <cmath>
#include <stdexcept>

namespace hygros::app {

TimeDialog::TimeDialog(Document& document, QWidget* parent) : QDialog(parent), document_(document)
{
    setObjectName("time");
    setWindowTitle(say("Frames, rate and shutter"));
    auto* form = new QFormLayout(this);
    form->setContentsMargins(18, 16, 18, 14);
    form->setSpacing(8);
    const scene::TimeSettings& t = document.project().time;
    const auto field = [&](const char* name, const QString& label, const QString& value, const QString& help) {
        auto* edit = new QLineEdit(value, this);
        edit->setObjectName(name);
        edit->setFont(figureFont(12));
        edit->setFixedWidth(120);
        edit->setToolTip(help);
        form->addRow(label, edit);
        return edit;
    };
    const auto shown = [](double v, Quantity q) { return QString::fromStdString(formatQuantity(v, q)); };
    first_ = field("first", say("First frame"), QString::number(t.first), say("May be negative."));
    last_ = field("last", say("Last frame"), QString::number(t.last), {});
    rate_ = field("rate", say("Frames a second"), QString::fromStdString(scene::shown(t.rate)),
                  say("24, 25, 30, 23.976, or a fraction such as 24000/1001"));
    angle_ = field("angle", say("Shutter angle"), shown(t.shutterAngle, Quantity::Angle),
                   say("180° leaves it open for half a frame; 0 is no motion blur."));
    phase_ = field("phase", say("Shutter phase"), shown(t.shutterPhase, Quantity::Angle),
                   say("When it opens, from the frame's own time on; −90° puts a 180° shutter about it."));
    preRoll_ = field("preRoll", say("Pre-roll"), shown(t.preRoll, Quantity::Time),
                     say("What is simulated before the first frame."));
    loop_ = field("loop", say("Loop"), t.loop > 0.0 ? shown(t.loop, Quantity::Time) : "off",
                  say("Stirs come back after so long, exactly; “off” for no loop."));
    note_ = new QLabel(this);
    note_->setObjectName("note");
    note_->setWordWrap(true);
    note_->setStyleSheet("color:#D0654B");
    form->addRow(note_);
    auto* row = new QHBoxLayout;
    auto* close = new QPushButton(say("Leave as it is"), this);
    auto* take = new QPushButton(say("Take"), this);
    take->setObjectName("take");
    take->setDefault(true);
    for (QPushButton* b : {close, take})
        b->setStyleSheet(plainButton());
    row->addStretch(1);
    row->addWidget(close);
    row->addWidget(take);
    form->addRow(row);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(take, &QPushButton::clicked, this, &TimeDialog::take);
}

void TimeDialog::take()
{
    scene::TimeSettings t = document_.project().time;
    const auto number = [](const QLineEdit* edit, Quantity q, const QString& name) {
        const auto v = parseQuantity(edit->text().toStdString(), q);
        if (!v)
            throw std::invalid_argument(name.toStdString() + said(" is not understood: '") +
                                        edit->text().toStdString() + "'");
        return *v;
    };
    const auto whole = [&](const QLineEdit* edit, const QString& name) {
        const double v = number(edit, Quantity::Plain, name);
        if (v != std::floor(v) || std::abs(v) > scene::TimeSettings::farthest)
            throw std::invalid_argument(name.toStdString() + said(" must be a whole number within ten million"));
        return static_cast<int>(v);
    };
    try {
        t.first = whole(first_, say("the first frame"));
        t.last = whole(last_, say("the last frame"));
        const auto rate = scene::rateOf(rate_->text().toStdString());
        if (!rate)
            throw std::invalid_argument(said("frames a second must lie within 1 to 1000"));
        t.rate = *rate;
        t.shutterAngle = number(angle_, Quantity::Angle, say("the shutter's angle"));
        t.shutterPhase = number(phase_, Quantity::Angle, say("the shutter's phase"));
        t.preRoll = number(preRoll_, Quantity::Time, say("the pre-roll"));
        const QString loop = loop_->text().trimmed();
        t.loop = loop.isEmpty() || loop == "off" ? 0.0 : number(loop_, Quantity::Time, say("the loop"));
        t.check();
    } catch (const std::invalid_argument& bad) {
        note_->setText(troubleOf(bad));
        return;
    }
    if (!(t == document_.project().time))
        document_.setTime(t, say("Frames and rate"));
    accept();
}
} // namespace hygros::app
