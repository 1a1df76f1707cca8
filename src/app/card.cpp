#include "app/card.h"

#include "app/card_actions.h"
#include "app/colour_ramp.h"
#include "app/lamp_drawings.h"
#include "app/lead_ruler.h"
#include "app/theme.h"
#include "app/tone_curve.h"

#include <QColorDialog>
#include <QContextMenuEvent>
#include <QFileDialog>
#include <QGridLayout>
#include <QInputDialog>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

namespace hygros::app {
using scene::Parameter;
using scene::Value;
using scene::ValueType;

QString plainButton()
{
    const Theme& t = Theme::now();
    return QString("QPushButton{border:1px solid %1;background:transparent;color:%2;padding:2px "
                   "8px}QPushButton:hover{color:%3}"
                   "QPushButton:checked{color:%4;border-color:%4}QPushButton:focus{border-color:%4}")
        .arg(t.rule.name(), t.quiet.name(), t.text.name(), t.accent.name());
}

namespace {
constexpr int headHeight = 50, edge = 12;

QString plainField()
{
    const Theme& t = Theme::now();
    return QString(
               "QLineEdit{border:1px solid %1;background:%2;color:%3;padding:2px 5px}QLineEdit:focus{border-color:%4}")
        .arg(t.rule.name(), t.field.name(), t.text.name(), t.accent.name());
}
/// A drawing under its parameter's own line.
QWidget* under(QWidget* row, QWidget* drawing)
{
    auto* both = new QWidget(row->parentWidget());
    auto* column = new QVBoxLayout(both);
    column->setContentsMargins(0, 0, 0, 4);
    column->setSpacing(0);
    column->addWidget(row);
    column->addWidget(drawing);
    return both;
}
} // namespace

Card::Card(Session& session, const std::string& element, bool open, QWidget* parent)
    : QWidget(parent), session_(session), element_(element), open_(open)
{
    setObjectName("card:" + QString::fromStdString(element));
    setFocusPolicy(Qt::TabFocus);
    setAttribute(Qt::WA_Hover);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(edge, headHeight + 6, 10, 8);
    layout->setSpacing(0);
    build();
    connect(&session, &Session::thumbnailChanged, this, [this](const QString& id) {
        if (id.toStdString() == element_)
            update();
    });
    connect(&session, &Session::hoveredChanged, this, [this] { update(); });
    connect(&session, &Session::costsChanged, this, [this] { update(); });
    connect(&session, &Session::shotChanged, this, &Card::tellNotes);
}

const scene::Element& Card::now() const
{
    static const scene::Element gone;
    const scene::Element* e = session_.project().find(element_);
    return e ? *e : gone;
}

QString Card::mergeKey(const Parameter& parameter) const
{
    return QString("%1.%2#%3")
        .arg(QString::fromStdString(element_), QString::fromStdString(parameter.id))
        .arg(gesture_);
}

LeadRuler* Card::rulerFor(const Parameter& parameter)
{
    auto* ruler = new LeadRuler(parameter, this);
    const auto pull = [this, ruler, &parameter] {
        const Value v = parameter.get(*now().settings);
        ruler->setValue(std::holds_alternative<double>(v) ? std::get<double>(v)
                                                          : static_cast<double>(std::get<std::int64_t>(v)));
    };
    pull();
    refreshers_.push_back(pull);
    connect(ruler, &LeadRuler::valueEdited, this, [this, ruler, &parameter](double v, bool dragging) {
        const Value value = parameter.type == ValueType::Whole ? Value(static_cast<std::int64_t>(v)) : Value(v);
        if (!session_.setValue(element_, parameter.id, value, dragging ? mergeKey(parameter) : QString()))
            refresh();
    });
    connect(ruler, &LeadRuler::editingEnded, this, [this] {
        ++gesture_;
        session_.endDrag();
    });
    connect(ruler, &LeadRuler::refused, &session_, &Session::failed);
    if (parameter.id == "visibility")
        visibilityForms(ruler);
    return ruler;
}

QWidget* Card::editorFor(const Parameter& parameter)
{
    if (parameter.id == "linking")
        return ballEditor(parameter);
    if (parameter.type == ValueType::Number || parameter.type == ValueType::Whole)
        return rulerFor(parameter);
    if (parameter.type == ValueType::Curve) {
        auto* curve = new ToneCurve(this);
        if (now().kind->family != scene::Family::Finish)
            curve->useShares(parameter.mayFall, QString::fromStdString(parameter.label));
        curve->setObjectName(QString::fromStdString(parameter.id));
        const auto pull = [this, curve, &parameter] {
            curve->setCurve(std::get<scene::CurvePoints>(parameter.get(*now().settings)));
        };
        pull();
        refreshers_.push_back(pull);
        connect(curve, &ToneCurve::curveEdited, this,
                [this, &parameter](const scene::CurvePoints& points, bool dragging) {
                    session_.setValue(element_, parameter.id, points, dragging ? mergeKey(parameter) : QString());
                });
        connect(curve, &ToneCurve::editingEnded, this, [this] {
            ++gesture_;
            session_.endDrag();
        });
        return curve;
    }
    auto* row = new QWidget(this);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(3, 3, 3, 3);
    line->setSpacing(6);
    auto* label = new QLabel(QString::fromStdString(parameter.label), row);
    label->setStyleSheet("color:" + Theme::now().quiet.name());
    label->setToolTip(QString::fromStdString(parameter.help));
    line->addWidget(label);
    line->addStretch(1);
    if (parameter.type == ValueType::Choice) {
        // More than fit beside the label stand under it, in rows.
        int wide = QFontMetrics(label->font()).horizontalAdvance(label->text()) + 12;
        for (const std::string& choice : parameter.choices)
            wide += QFontMetrics(row->font()).horizontalAdvance(QString::fromStdString(choice)) + 26;
        QGridLayout* grid = nullptr;
        if (wide > 268) {
            auto* whole = new QWidget(this);
            auto* column = new QVBoxLayout(whole);
            column->setContentsMargins(0, 0, 0, 0);
            column->setSpacing(0);
            column->addWidget(row);
            grid = new QGridLayout;
            grid->setContentsMargins(3, 0, 3, 3);
            grid->setSpacing(5);
            column->addLayout(grid);
            row = whole;
        }
        for (const std::string& choice : parameter.choices) {
            auto* b = new QPushButton(QString::fromStdString(choice), row);
            b->setCheckable(true);
            b->setStyleSheet(plainButton());
            b->setObjectName(QString::fromStdString(parameter.id + "=" + choice));
            if (grid)
                grid->addWidget(b, grid->count() / 3, grid->count() % 3);
            else
                line->addWidget(b);
            const auto pull = [this, b, choice, &parameter] {
                b->setChecked(std::get<std::string>(parameter.get(*now().settings)) == choice);
            };
            pull();
            refreshers_.push_back(pull);
            connect(b, &QPushButton::clicked, this,
                    [this, choice, &parameter] { session_.setValue(element_, parameter.id, choice); });
        }
        return row;
    }
    if (parameter.type == ValueType::Switch) {
        auto* b = new QPushButton(row);
        b->setCheckable(true);
        b->setStyleSheet(plainButton());
        line->addWidget(b);
        const auto pull = [this, b, &parameter] {
            b->setChecked(std::get<bool>(parameter.get(*now().settings)));
            b->setText(b->isChecked() ? "on" : "off");
        };
        pull();
        refreshers_.push_back(pull);
        connect(b, &QPushButton::clicked, this,
                [this, &parameter](bool on) { session_.setValue(element_, parameter.id, on); });
        return row;
    }
    if (parameter.type == ValueType::File) {
        auto* name = new QPushButton(row);
        name->setStyleSheet(plainButton());
        line->addWidget(name);
        const auto pull = [this, name, &parameter] {
            const QString file = QString::fromStdString(std::get<std::string>(parameter.get(*now().settings)));
            name->setText(file.isEmpty() ? "choose a file…" : QFileInfo(file).fileName());
            name->setToolTip(file);
        };
        pull();
        refreshers_.push_back(pull);
        connect(name, &QPushButton::clicked, this, [this, &parameter] {
            const QString file = QFileDialog::getOpenFileName(
                this, QString::fromStdString(now().kind->label + ": " + parameter.label), {},
                now().kind->id == "set"      ? geometryFiles
                : now().kind->id == "volume" ? volumeFiles
                                             : pictureFiles);
            if (!file.isEmpty())
                session_.setValue(element_, parameter.id, file.toStdString());
        });
        if (now().kind->id == "volume")
            return under(row, gridFacts());
        if (parameter.id != "profile")
            return row;
        auto* drawing = new ProfileDrawing(this);
        const auto draw = [this, drawing] {
            const auto shot = session_.shot();
            const auto lamp = shot ? std::find_if(shot->lamps.begin(), shot->lamps.end(),
                                                  [&](const light::Lamp& l) { return l.id == element_; })
                                   : std::vector<light::Lamp>::const_iterator();
            drawing->setProfile(shot && lamp != shot->lamps.end() ? lamp->profile : nullptr);
        };
        draw();
        connect(&session_, &Session::shotChanged, drawing, draw);
        return under(row, drawing);
    }
    if (parameter.type == ValueType::Stops) {
        auto* ramp = new ColourRamp(this);
        ramp->setObjectName(QString::fromStdString(parameter.id));
        ramp->setToolTip(QString::fromStdString(parameter.help));
        const auto pull = [this, ramp, &parameter] {
            ramp->setStops(std::get<scene::ColourStops>(parameter.get(*now().settings)));
        };
        pull();
        refreshers_.push_back(pull);
        connect(ramp, &ColourRamp::stopsEdited, this,
                [this, &parameter](const scene::ColourStops& stops, bool dragging) {
                    session_.setValue(element_, parameter.id, stops, dragging ? mergeKey(parameter) : QString());
                });
        connect(ramp, &ColourRamp::editingEnded, this, [this] {
            ++gesture_;
            session_.endDrag();
        });
        delete row;
        return ramp;
    }
    if (!parameter.linksTo.empty()) {
        linkField(row, parameter);
        return row;
    }
    if (parameter.type == ValueType::Colour) {
        auto* swatch = new QPushButton(row);
        swatch->setFixedSize(24, 18);
        swatch->setToolTip("Choose a colour");
        line->addWidget(swatch);
        const auto pull = [this, swatch, &parameter] {
            const QColor c = displayColour(std::get<Vec3>(parameter.get(*now().settings)));
            swatch->setStyleSheet(
                QString("QPushButton{background:%1;border:1px solid %2}").arg(c.name(), Theme::now().rule.name()));
        };
        pull();
        refreshers_.push_back(pull);
        connect(swatch, &QPushButton::clicked, this, [this, &parameter] {
            const QColor c = QColorDialog::getColor(displayColour(std::get<Vec3>(parameter.get(*now().settings))), this,
                                                    QString::fromStdString(parameter.label));
            if (c.isValid())
                session_.setValue(element_, parameter.id, parameter.parsed(c.name().toStdString()));
        });
    }
    // Colours and points are typed as three numbers.
    auto* field = new QLineEdit(row);
    field->setFont(figureFont(11));
    field->setAlignment(Qt::AlignRight);
    field->setStyleSheet(plainField());
    field->setFixedWidth(150);
    field->setObjectName(QString::fromStdString(parameter.id));
    field->setToolTip(QString::fromStdString(parameter.help));
    line->addWidget(field);
    const auto pull = [this, field, &parameter] {
        field->setText(QString::fromStdString(parameter.shown(parameter.get(*now().settings))));
    };
    pull();
    refreshers_.push_back(pull);
    connect(field, &QLineEdit::editingFinished, this, [this, field, pull, &parameter] {
        if (field->text() == QString::fromStdString(parameter.shown(parameter.get(*now().settings))))
            return;
        try {
            session_.setValue(element_, parameter.id, parameter.parsed(field->text().toStdString()));
        } catch (const std::invalid_argument& bad) {
            Q_EMIT session_.failed(QString("%1. It stays as it was.").arg(bad.what()));
            pull();
        }
    });
    if (parameter.id != "goboDrawing")
        return row;
    auto* pad = new GoboPad(this);
    const auto draw = [this, pad, &parameter] {
        pad->setDrawing(std::get<std::string>(parameter.get(*now().settings)));
    };
    draw();
    refreshers_.push_back(draw);
    connect(pad, &GoboPad::drawingEdited, this, [this, &parameter](const QString& text, bool dragging) {
        session_.setValue(element_, parameter.id, text.toStdString(), dragging ? mergeKey(parameter) : QString());
    });
    connect(pad, &GoboPad::editingEnded, this, [this] { ++gesture_, session_.endDrag(); });
    return under(row, pad);
}

void Card::addGroup(QVBoxLayout* column, const QString& name, const std::vector<const Parameter*>& parameters)
{
    if (!name.isEmpty()) {
        auto* title = new QLabel(name, body_);
        title->setFont(textFont(12, QFont::DemiBold));
        title->setContentsMargins(3, 8, 0, 3);
        column->addWidget(title);
    }
    QHBoxLayout* pair = nullptr;
    for (const Parameter* p : parameters) {
        QWidget* editor = editorFor(*p);
        const bool half = p->type == ValueType::Number || p->type == ValueType::Whole;
        if (!half) {
            pair = nullptr;
            column->addWidget(editor);
            continue;
        }
        if (!pair || pair->count() == 2) {
            pair = new QHBoxLayout;
            pair->setSpacing(12);
            column->addLayout(pair);
        }
        pair->addWidget(editor, 1);
    }
    if (pair && pair->count() == 1)
        pair->addStretch(1);
}

void Card::build()
{
    delete body_;
    refreshers_.clear();
    body_ = new QWidget(this);
    auto* column = new QVBoxLayout(body_);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    const scene::Element& e = now();
    const Theme& t = Theme::now();
    std::vector<const Parameter*> lead;
    std::vector<std::pair<std::string, std::vector<const Parameter*>>> groups;
    shape_.clear();
    for (const Parameter& p : e.kind->parameters) {
        if (!scene::applies(e.kind->parameters, p, *e.settings))
            continue;
        shape_ += p.id + " ";
        if (p.isLead) {
            lead.push_back(&p);
            continue;
        }
        if (groups.empty() || groups.back().first != p.group) {
            const auto same = std::find_if(groups.begin(), groups.end(),
                                           [&](const auto& g) { return g.first == p.group; });
            if (same != groups.end()) {
                same->second.push_back(&p);
                continue;
            }
            groups.emplace_back(p.group, std::vector<const Parameter*>());
        }
        groups.back().second.push_back(&p);
    }
    addGroup(column, {}, lead);
    if (open_)
        for (const auto& [name, parameters] : groups)
            addGroup(column, QString::fromStdString(name), parameters);
    if (open_)
        for (const CardAction& action : actionsOf(e.kind->id)) {
            auto* button = new QPushButton(action.label, body_);
            button->setObjectName("do:" + action.id);
            button->setToolTip(action.help);
            button->setStyleSheet(plainButton());
            column->addWidget(button);
            connect(button, &QPushButton::clicked, this, [this, run = action.run] { run(session_, element_); });
        }
    notes_ = new QLabel(body_);
    notes_->setObjectName("notes");
    notes_->setWordWrap(true);
    notes_->setStyleSheet(QString("color:%1;border-left:2px solid #D0654B;padding:2px 6px").arg(t.text.name()));
    column->addWidget(notes_);
    tellNotes();
    layout()->addWidget(body_);
    body_->show();
    updateGeometry();
    update();
}

void Card::tellNotes()
{
    QStringList all;
    for (const QString& n : session_.notes(element_))
        all << n;
    notes_->setText(all.join("\n"));
    notes_->setVisible(!all.isEmpty());
    updateGeometry();
}

void Card::setOpen(bool open)
{
    if (open == open_)
        return;
    open_ = open;
    build();
    Q_EMIT opened(QString::fromStdString(element_), open);
}

void Card::refresh()
{
    const scene::Element& e = now();
    if (!e.kind)
        return;
    std::string shape;
    for (const Parameter& p : e.kind->parameters)
        if (scene::applies(e.kind->parameters, p, *e.settings))
            shape += p.id + " ";
    if (shape != shape_)
        build();
    for (const auto& pull : refreshers_)
        pull();
    update();
}

QRect Card::muteRect() const { return {width() - 52, 8, 44, 20}; }
QRect Card::soloRect() const { return {width() - 92, 8, 38, 20}; }

void Card::paintEvent(QPaintEvent*)
{
    const scene::Element& e = now();
    if (!e.kind)
        return;
    const Theme& t = Theme::now();
    QPainter p(this);
    const bool lit = hovered_ || session_.hovered() == element_;
    p.fillRect(rect(), lit ? t.raised.lighter(106) : t.raised);
    const bool silent = session_.project().silent(e);
    QColor hue = familyHue(e.kind->family);
    if (silent)
        hue.setAlpha(90);
    p.fillRect(QRect(0, 0, 3, height()), hue);
    int x = edge;
    const QImage thumb = session_.thumbnail(element_);
    const bool pictured = e.kind->family == scene::Family::Air || e.kind->family == scene::Family::Lights;
    if (pictured) {
        const QRect frame(x, 8, 62, 36);
        p.fillRect(frame, Qt::black);
        if (e.kind->id == "tint") { // it adds no light of its own: its colours
            QLinearGradient colours(frame.bottomLeft(), frame.topLeft());
            const scene::Value stops = e.value("colours");
            for (const scene::ColourStop& stop : std::get<scene::ColourStops>(stops))
                colours.setColorAt(static_cast<double>(std::clamp(stop.at, 0.f, 1.f)), displayColour(stop.colour));
            p.setOpacity(silent ? 0.35 : 1.0);
            p.fillRect(frame, colours);
            p.setOpacity(1.0);
        } else if (!thumb.isNull() && !silent) {
            p.setRenderHint(QPainter::SmoothPixmapTransform);
            const QImage scaled = thumb.scaled(frame.size(), Qt::KeepAspectRatioByExpanding, Qt::SmoothTransformation);
            p.drawImage(frame, scaled,
                        QRect((scaled.width() - frame.width()) / 2, (scaled.height() - frame.height()) / 2,
                              frame.width(), frame.height()));
        }
        x += 72;
    }
    p.setPen(silent ? t.quiet : t.text);
    p.setFont(textFont(13, QFont::DemiBold));
    const bool mutes = !static_cast<const elements::Kind&>(*e.kind).staysWhenSilent;
    const int nameWidth = (mutes ? soloRect().left() : width() - 10) - x - 6;
    p.drawText(QRect(x, 8, nameWidth, 20), Qt::AlignVCenter,
               QFontMetrics(p.font()).elidedText(QString::fromStdString(e.name), Qt::ElideRight, nameWidth));
    p.setFont(textFont(11));
    p.setPen(t.quiet);
    QString second = QString::fromStdString(e.kind->label);
    if (scene::findParameter(e.kind->parameters, "visibility")) {
        const double v = std::get<double>(e.value("visibility"));
        double sigma = extinctionOfVisibility(v);
        if (e.kind->id == "volume") {
            const elements::VolumeLook look = elements::lookOf(e);
            sigma = static_cast<double>(luminance(look.scattering + look.absorption));
        }
        second += QString("  ·  %1 /m").arg(QString::fromStdString(formatNumber(sigma, 2)));
    }
    // What it takes of a pass stands at the right.
    const QString cost = silent ? QString() : session_.costText(element_);
    p.setFont(figureFont(10));
    const int costWidth = cost.isEmpty() ? 0 : p.fontMetrics().horizontalAdvance(cost) + 8;
    p.drawText(QRect(x, 27, width() - x - 32, 18), Qt::AlignVCenter | Qt::AlignRight, cost);
    p.setFont(textFont(11));
    if (const auto dot = second.indexOf("  ·  ");
        dot > 0 && p.fontMetrics().horizontalAdvance(second) > width() - x - 32 - costWidth)
        second = second.mid(dot + 5); // the number says more than the kind
    p.drawText(QRect(x, 27, width() - x - 32 - costWidth, 18), Qt::AlignVCenter,
               p.fontMetrics().elidedText(second, Qt::ElideRight, width() - x - 32 - costWidth));
    if (mutes) {
        const auto word = [&](const QRect& r, const QString& text, bool on) {
            p.setFont(textFont(11, on ? QFont::DemiBold : QFont::Normal));
            p.setPen(on ? t.accent : t.quiet);
            p.drawText(r, Qt::AlignCenter, text);
            if (on)
                p.drawLine(r.left() + 4, r.bottom(), r.right() - 4, r.bottom());
        };
        word(soloRect(), "solo", e.soloed);
        word(muteRect(), e.muted ? "muted" : "mute", e.muted);
    }
    // A chevron says that there is more.
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(t.quiet, 1.5));
    const QPointF c(width() - 22, 37);
    if (open_)
        p.drawPolyline(QPolygonF{c + QPointF(-4, 2), c + QPointF(0, -2), c + QPointF(4, 2)});
    else
        p.drawPolyline(QPolygonF{c + QPointF(-4, -2), c + QPointF(0, 2), c + QPointF(4, -2)});
    if (hasFocus()) {
        p.setPen(QPen(t.accent, 1));
        p.setBrush(Qt::NoBrush);
        p.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void Card::toggle(bool scene::Element::*flag, const QString& name)
{
    session_.edit(name + " " + QString::fromStdString(now().name), [&](scene::Project& p) {
        scene::Element& e = *p.find(element_);
        e.*flag = !(e.*flag);
    });
}

void Card::mousePressEvent(QMouseEvent* e)
{
    if (e->button() != Qt::LeftButton || e->pos().y() > headHeight)
        return QWidget::mousePressEvent(e);
    const bool mutes = !static_cast<const elements::Kind&>(*now().kind).staysWhenSilent;
    if (mutes && muteRect().contains(e->pos()))
        toggle(&scene::Element::muted, "Mute");
    else if (mutes && soloRect().contains(e->pos()))
        toggle(&scene::Element::soloed, "Solo");
    else
        setOpen(!open_);
}

void Card::keyPressEvent(QKeyEvent* e)
{
    // Keys that a field inside has done with (Return ends typing) are not the card's.
    if (QWidget* f = window()->focusWidget(); f && f != this && isAncestorOf(f))
        return QWidget::keyPressEvent(e);
    switch (e->key()) {
    case Qt::Key_Space:
    case Qt::Key_Return: setOpen(!open_); break;
    case Qt::Key_M: toggle(&scene::Element::muted, "Mute"); break;
    case Qt::Key_S: toggle(&scene::Element::soloed, "Solo"); break;
    default: QWidget::keyPressEvent(e);
    }
}

void Card::enterEvent(QEnterEvent*)
{
    hovered_ = true;
    session_.setHovered(element_);
    update();
}
void Card::leaveEvent(QEvent*)
{
    hovered_ = false;
    session_.setHovered({});
    update();
}

void Card::contextMenuEvent(QContextMenuEvent* e)
{
    QMenu menu(this);
    menu.addAction("Rename…", this, [this] {
        bool good = false;
        const QString name = QInputDialog::getText(this, "Rename", "Name", QLineEdit::Normal,
                                                   QString::fromStdString(now().name), &good);
        if (good && !name.trimmed().isEmpty())
            session_.edit("Rename", [&](scene::Project& p) { p.find(element_)->name = name.trimmed().toStdString(); });
    });
    QAction* gone = menu.addAction("Remove", this, [this] {
        session_.edit("Remove " + QString::fromStdString(now().name),
                      [id = element_](scene::Project& p) { p.remove(id); });
    });
    gone->setEnabled(!static_cast<const elements::Kind&>(*now().kind).staysWhenSilent);
    menu.exec(e->globalPos());
}
} // namespace hygros::app
