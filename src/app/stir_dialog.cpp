#include "app/stir_dialog.h"

#include "app/editors.h"
#include "app/theme.h"
#include "app/words.h"

#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QTimer>
#include <QVBoxLayout>
#include <algorithm>
#include <stdexcept>

namespace hygros::app {
using scene::Stir;

namespace {
/// The value over the project's range, as keys and stirs make it.
class StirCurve : public QWidget {
public:
    StirCurve(const Document& document, const std::string& element, const scene::Parameter& parameter,
              const scene::Track& track, QWidget* parent)
        : QWidget(parent), document_(document), element_(element), parameter_(parameter), track_(track)
    {
        setFixedHeight(120);
    }

protected:
    void paintEvent(QPaintEvent*) override
    {
        const Theme& t = Theme::now();
        QPainter p(this);
        p.fillRect(rect(), t.field);
        scene::Project whole = document_.whole();
        scene::Element* e = whole.find(element_);
        if (!e)
            return;
        try {
            e->setTrack(parameter_.id, track_);
        } catch (const std::invalid_argument&) {
            return;
        }
        const scene::TimeSettings& time = whole.time;
        const int n = std::max(2, width() / 2);
        std::vector<double> values[3];
        double least = 1e300, most = -1e300;
        for (int i = 0; i < n; ++i) {
            const double frame = time.first + (time.last - time.first) * double(i) / (n - 1);
            const scene::Value v = scene::valueAt(whole, *e, parameter_, frame);
            const auto* three = std::get_if<Vec3>(&v);
            for (int c = 0; c < (three ? 3 : 1); ++c) {
                const double x = three ? double((*three)[c]) : std::get<double>(v);
                values[c].push_back(x);
                least = std::min(least, x);
                most = std::max(most, x);
            }
        }
        if (most - least < 1e-9 * std::max(1.0, std::abs(most))) {
            least -= 0.5;
            most += 0.5;
        }
        p.setRenderHint(QPainter::Antialiasing);
        const QColor hues[] = {t.accent, t.text, t.quiet};
        for (int c = 0; c < 3; ++c) {
            QPainterPath path;
            for (std::size_t i = 0; i < values[c].size(); ++i) {
                const QPointF at(double(i) / (n - 1) * width(),
                                 height() - 20 - (values[c][i] - least) / (most - least) * (height() - 30));
                i ? path.lineTo(at) : path.moveTo(at);
            }
            p.setPen(QPen(hues[c], 1.3));
            p.drawPath(path);
        }
        p.setFont(figureFont(10));
        p.setPen(t.quiet);
        p.drawText(QRect(4, 2, width() - 8, 14), Qt::AlignLeft, text(most));
        p.drawText(QRect(4, height() - 16, width() - 8, 14), Qt::AlignLeft,
                   text(least) + say("   frames %1 to %2").arg(time.first).arg(time.last));
    }

private:
    QString text(double v) const { return QString::fromStdString(formatQuantity(v, parameter_.quantity)); }
    const Document& document_;
    const std::string& element_;
    const scene::Parameter& parameter_;
    const scene::Track& track_;
};

struct Field {
    const char* name;
    QString label, help;
    double Stir::*value;
    Quantity quantity;
};
std::vector<Field> fieldsOf(Stir::Kind kind)
{
    const Field rate{"rate", say("rate"), say("How often a second."), &Stir::rate, Quantity::Frequency},
        phase{"phase", say("phase"), say("Where in its turn it begins."), &Stir::phase, Quantity::Angle};
    switch (kind) {
    case Stir::Kind::Sway:
        return {
            rate,
            {"rough", say("roughness"), say("How much of faster movement is in it."), &Stir::rough, Quantity::Share}};
    case Stir::Kind::Swing: return {rate, phase};
    case Stir::Kind::Pulse:
        return {
            rate, phase, {"width", say("width"), say("How much of the time it is up."), &Stir::width, Quantity::Share}};
    case Stir::Kind::Ramp:
        return {{"from", say("from frame"), say("Where it begins."), &Stir::from, Quantity::Plain},
                {"to", say("to frame"), say("Where all of it is there."), &Stir::to, Quantity::Plain}};
    case Stir::Kind::Follows: break;
    }
    return {};
}
struct Named {
    Stir::Kind kind;
    const char *name, *help;
};
constexpr Named kinds[] = {
    {Stir::Kind::Sway, QT_TRANSLATE_NOOP("window", "Sway"),
     QT_TRANSLATE_NOOP("window", "wanders about, as a hand does")},
    {Stir::Kind::Swing, QT_TRANSLATE_NOOP("window", "Swing"), QT_TRANSLATE_NOOP("window", "to and fro, evenly")},
    {Stir::Kind::Pulse, QT_TRANSLATE_NOOP("window", "Pulse"),
     QT_TRANSLATE_NOOP("window", "rises and falls again and again")},
    {Stir::Kind::Ramp, QT_TRANSLATE_NOOP("window", "Ramp"), QT_TRANSLATE_NOOP("window", "rises once, and stays")},
    {Stir::Kind::Follows, QT_TRANSLATE_NOOP("window", "Follows"),
     QT_TRANSLATE_NOOP("window", "another parameter, times a factor")}};
} // namespace

StirDialog::StirDialog(Document& document, const std::string& element, const scene::Parameter& parameter,
                       QWidget* parent)
    : QDialog(parent), document_(document), element_(element), parameter_(parameter)
{
    setObjectName("stir");
    const scene::Element* e = document.project().find(element);
    if (const scene::Track* was = e ? e->track(parameter.id) : nullptr)
        track_ = *was;
    setWindowTitle(
        say("Stir %1: %2").arg(QString::fromStdString(e ? e->name : element), QString::fromStdString(parameter.label)));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 14, 16, 12);
    curve_ = new StirCurve(document_, element_, parameter_, track_, this);
    column->addWidget(curve_);
    list_ = new QVBoxLayout;
    column->addLayout(list_);
    note_ = new QLabel(this);
    note_->setObjectName("note");
    note_->setWordWrap(true);
    note_->setStyleSheet("color:#D0654B");
    column->addWidget(note_);
    auto* row = new QHBoxLayout;
    auto* more = new QPushButton(say("Add a stir"), this);
    more->setObjectName("addStir");
    auto* menu = new QMenu(more);
    for (const Named& k : kinds)
        menu->addAction(QString("%1: %2").arg(say(k.name), say(k.help)), this, [this, kind = k.kind] { add(kind); });
    more->setMenu(menu);
    auto* leave = new QPushButton(say("Leave as it is"), this);
    auto* take = new QPushButton(say("Take"), this);
    take->setObjectName("take");
    take->setDefault(true);
    for (QPushButton* b : {more, leave, take}) {
        b->setStyleSheet(plainButton() + "QPushButton::menu-indicator{width:0}");
        b->setAutoDefault(false);
        row->addWidget(b);
        if (b == more)
            row->addStretch(1);
    }
    column->addLayout(row);
    connect(leave, &QPushButton::clicked, this, &QDialog::reject);
    connect(take, &QPushButton::clicked, this, &StirDialog::take);
    setMinimumWidth(430);
    build();
}

void StirDialog::add(Stir::Kind kind)
{
    Stir s;
    s.kind = kind;
    // A tenth of what the scale spans is seen and not wild.
    const bool colour = parameter_.type == scene::ValueType::Colour;
    const double usual = kind == Stir::Kind::Follows ? 1.0
                         : colour                    ? 0.1
                         : parameter_.logarithmic    ? 0.1 * std::get<double>(parameter_.fallback)
                                                     : 0.1 * (parameter_.softMax - parameter_.softMin);
    s.amount = Vec3(static_cast<float>(usual));
    s.seed = static_cast<std::int64_t>(track_.stirs.size()) + 1;
    const scene::TimeSettings& t = document_.project().time;
    s.from = t.first;
    s.to = t.last;
    track_.stirs.push_back(s);
    build();
}

void StirDialog::build()
{
    delete rows_;
    rows_ = new QWidget(this);
    auto* column = new QVBoxLayout(rows_);
    column->setContentsMargins(0, 0, 0, 0);
    const bool three = parameter_.type == scene::ValueType::Colour || parameter_.type == scene::ValueType::Point;
    for (std::size_t i = 0; i < track_.stirs.size(); ++i) {
        Stir& s = track_.stirs[i];
        auto* head = new QHBoxLayout;
        auto* name = new QLabel(say(kinds[static_cast<std::size_t>(s.kind)].name), rows_);
        name->setFont(textFont(12, QFont::DemiBold));
        auto* gone = new QPushButton(say("Take away"), rows_);
        gone->setObjectName(QString("remove%1").arg(i));
        gone->setAutoDefault(false);
        gone->setStyleSheet(plainButton());
        head->addWidget(name);
        head->addStretch(1);
        head->addWidget(gone);
        column->addLayout(head);
        connect(gone, &QPushButton::clicked, this, [this, i] {
            QTimer::singleShot(0, this, [this, i] {
                track_.stirs.erase(track_.stirs.begin() + static_cast<std::ptrdiff_t>(i));
                build();
            });
        });
        auto* form = new QFormLayout;
        form->setContentsMargins(10, 0, 0, 4);
        const auto field = [&](const QString& id, const QString& label, const QString& value, const QString& help,
                               std::function<void(Stir&, const std::string&)> set) {
            auto* edit = new QLineEdit(value, rows_);
            edit->setObjectName(QString("%1%2").arg(id).arg(i));
            edit->setFont(figureFont(12));
            edit->setToolTip(help);
            form->addRow(label, edit);
            connect(edit, &QLineEdit::textEdited, this, [this, i, set](const QString& text) {
                try {
                    Stir next = track_.stirs[i];
                    set(next, text.toStdString());
                    scene::Track whole = track_;
                    whole.stirs[i] = next;
                    scene::checkTrack(parameter_, whole);
                    track_ = whole;
                    note_->clear();
                } catch (const std::invalid_argument& bad) {
                    note_->setText(troubleOf(bad));
                }
                curve_->update();
            });
        };
        const scene::Value amount = three ? scene::Value(s.amount) : scene::Value(double(s.amount.x));
        const bool plain = s.kind == Stir::Kind::Follows;
        field("amount", plain ? say("factor") : say("amount"),
              plain && !three ? QString::fromStdString(formatNumber(double(s.amount.x), 4))
                              : QString::fromStdString(parameter_.shown(amount)),
              three ? say("One number for each of the three.") : say("How far it goes to either side."),
              [this, three, plain](Stir& to, const std::string& text) {
                  scene::Parameter free = parameter_; // an amount may be negative
                  free.hardMin = -1e300;
                  free.hardMax = 1e300;
                  if (plain)
                      free.quantity = Quantity::Plain;
                  const scene::Value v = free.parsed(text);
                  to.amount = three ? std::get<Vec3>(v) : Vec3(static_cast<float>(std::get<double>(v)));
              });
        for (const Field& f : fieldsOf(s.kind))
            field(f.name, f.label, QString::fromStdString(formatQuantity(s.*f.value, f.quantity)), f.help,
                  [f](Stir& to, const std::string& text) {
                      const auto v = parseQuantity(text, f.quantity);
                      if (!v)
                          throw std::invalid_argument(f.label.toStdString() + said(" is not understood: '") + text +
                                                      "'");
                      to.*f.value = *v;
                  });
        if (s.kind == Stir::Kind::Sway)
            field("seed", say("seed"), QString::number(s.seed), say("Another number sways another way."),
                  [](Stir& to, const std::string& text) {
                      const auto v = parseQuantity(text, Quantity::Plain);
                      if (!v || std::abs(*v) > 1e9)
                          throw std::invalid_argument(said("the seed must be a whole number"));
                      to.seed = static_cast<std::int64_t>(*v);
                  });
        if (s.kind == Stir::Kind::Follows)
            field("source", say("parameter"), QString::fromStdString(s.source),
                  say("element.parameter; a field's menu copies its path."),
                  [](Stir& to, const std::string& text) { to.source = text; });
        column->addLayout(form);
    }
    if (track_.stirs.empty())
        column->addWidget(new QLabel(say("Nothing is laid over it yet: add a stir."), rows_));
    list_->addWidget(rows_);
    rows_->show();
    curve_->update();
    QTimer::singleShot(0, this, [this] { adjustSize(); });
}

void StirDialog::take()
{
    if (!note_->text().isEmpty())
        return; // what is typed is not understood yet
    const scene::Element* e = document_.project().find(element_);
    if (e && document_.setTrack(
                 element_, parameter_.id, track_,
                 say("Stir %1 %2").arg(QString::fromStdString(e->name), QString::fromStdString(parameter_.label))))
        accept();
}
} // namespace hygros::app
