#include "app/editors.h"

#include "app/colour_ramp.h"
#include "app/lamp_drawings.h"
#include "app/lead_ruler.h"
#include "app/theme.h"
#include "app/tone_curve.h"
#include "app/waves_drawing.h"
#include "app/words.h"
#include "elements/water.h"

#include <QColorDialog>
#include <QFileDialog>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <numeric>

namespace hygros::app {
using scene::Parameter;
using scene::Value;
using scene::ValueType;

QString plainButton()
{
    const Theme& t = Theme::now();
    return QString("QPushButton{border:1px solid %1;background:transparent;color:%2;padding:2px "
                   "8px}QPushButton:hover{color:%3}"
                   "QPushButton:checked{color:%4;border-color:%4}QPushButton:focus{border-color:%4;background:%5}")
        .arg(t.rule.name(), t.quiet.name(), t.text.name(), t.accent.name(), t.field.name());
}

void nameFields(const Parameter& parameter, QWidget& editor)
{
    const QString label = QString::fromStdString(parameter.label);
    QList<QWidget*> all = editor.findChildren<QWidget*>();
    all.prepend(&editor);
    for (QWidget* w : all) {
        if (!(w->focusPolicy() & Qt::TabFocus) || !w->accessibleName().isEmpty())
            continue;
        const auto* button = qobject_cast<QPushButton*>(w);
        w->setAccessibleName(!button                     ? label
                             : !button->text().isEmpty() ? label + ": " + button->text()
                             : !w->toolTip().isEmpty()   ? label + ": " + w->toolTip()
                                                         : label);
    }
}

QWidget* labelled(Card& card, const Parameter& parameter)
{
    auto* row = new QWidget(&card);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(3, 3, 3, 3);
    line->setSpacing(6);
    auto* label = new QLabel(QString::fromStdString(parameter.label), row);
    label->setStyleSheet("color:" + Theme::now().quiet.name());
    label->setToolTip(QString::fromStdString(parameter.help));
    line->addWidget(label);
    line->addStretch(1);
    return row;
}

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

QString besideLabel(const QWidget& button, const Parameter& parameter, const QString& text)
{
    const QFontMetrics letters(button.font());
    const int room = 230 - letters.horizontalAdvance(QString::fromStdString(parameter.label));
    return letters.elidedText(text, Qt::ElideMiddle, std::max(60, room)).replace("&", "&&"); // no mnemonics
}

LeadRuler* rulerFor(Card& card, const Parameter& parameter)
{
    auto* ruler = new LeadRuler(parameter, &card);
    card.onRefresh([&card, ruler, &parameter] {
        const Value v = card.value(parameter);
        ruler->setValue(std::holds_alternative<double>(v) ? std::get<double>(v)
                                                          : static_cast<double>(std::get<std::int64_t>(v)));
    });
    QObject::connect(ruler, &LeadRuler::valueEdited, &card, [&card, &parameter](double v, bool dragging) {
        const Value value = parameter.type == ValueType::Whole ? Value(static_cast<std::int64_t>(v)) : Value(v);
        if (!card.set(parameter, value, dragging))
            card.refresh();
    });
    QObject::connect(ruler, &LeadRuler::editingEnded, &card, &Card::endGesture);
    QObject::connect(ruler, &LeadRuler::refused, &card.session(), &Session::failed);
    return ruler;
}

namespace {
ToneCurve* curveFor(Card& card, const Parameter& parameter)
{
    auto* curve = new ToneCurve(&card);
    curve->setObjectName(QString::fromStdString(parameter.id));
    card.onRefresh(
        [&card, curve, &parameter] { curve->setCurve(std::get<scene::CurvePoints>(card.value(parameter))); });
    QObject::connect(curve, &ToneCurve::curveEdited, &card,
                     [&card, &parameter](const scene::CurvePoints& points, bool dragging) {
                         card.set(parameter, points, dragging);
                     });
    QObject::connect(curve, &ToneCurve::editingEnded, &card, &Card::endGesture);
    return curve;
}

QWidget* sharesEditor(Card& card, const Parameter& parameter)
{
    ToneCurve* curve = curveFor(card, parameter);
    curve->useShares(parameter.mayFall, QString::fromStdString(parameter.label));
    return curve;
}

QWidget* numberEditor(Card& card, const Parameter& parameter) { return rulerFor(card, parameter); }

QWidget* choiceEditor(Card& card, const Parameter& parameter)
{
    QWidget* row = labelled(card, parameter);
    // More than fit beside the label stand under it, in rows of as many as the widest leave room for.
    const QFontMetrics letters(row->font());
    int wide = letters.horizontalAdvance(QString::fromStdString(parameter.label)) + 12, columns = 3;
    const auto widthIn = [&](int count) {
        std::vector<int> each(static_cast<std::size_t>(count));
        for (std::size_t i = 0; i < parameter.choices.size(); ++i)
            each[i % each.size()] = std::max(each[i % each.size()],
                                             letters.horizontalAdvance(nameOf(parameter.choices[i])) + 26);
        return std::accumulate(each.begin(), each.end(), 0);
    };
    while (columns > 1 && widthIn(columns) > 272)
        --columns;
    wide += widthIn(static_cast<int>(parameter.choices.size()));
    QGridLayout* grid = nullptr;
    QLayout* line = row->layout();
    if (wide > 268) {
        auto* buttons = new QWidget(&card);
        grid = new QGridLayout(buttons);
        grid->setContentsMargins(3, 0, 3, 3);
        grid->setSpacing(5);
        row = under(row, buttons);
    }
    for (const std::string& choice : parameter.choices) {
        auto* b = new QPushButton(nameOf(choice), row);
        b->setCheckable(true);
        b->setStyleSheet(plainButton());
        b->setObjectName(QString::fromStdString(parameter.id + "=" + choice));
        if (grid)
            grid->addWidget(b, grid->count() / columns, grid->count() % columns);
        else
            line->addWidget(b);
        card.onRefresh(
            [&card, b, choice, &parameter] { b->setChecked(std::get<std::string>(card.value(parameter)) == choice); });
        QObject::connect(b, &QPushButton::clicked, &card, [&card, choice, &parameter] { card.set(parameter, choice); });
    }
    return row;
}

QWidget* switchEditor(Card& card, const Parameter& parameter)
{
    QWidget* row = labelled(card, parameter);
    auto* b = new QPushButton(row);
    b->setCheckable(true);
    b->setStyleSheet(plainButton());
    b->setObjectName(QString::fromStdString(parameter.id));
    row->layout()->addWidget(b);
    card.onRefresh([&card, b, &parameter] {
        b->setChecked(std::get<bool>(card.value(parameter)));
        b->setText(b->isChecked() ? say("on") : say("off"));
    });
    QObject::connect(b, &QPushButton::clicked, &card, [&card, &parameter](bool on) { card.set(parameter, on); });
    return row;
}

QWidget* stopsEditor(Card& card, const Parameter& parameter)
{
    auto* ramp = new ColourRamp(&card);
    ramp->setObjectName(QString::fromStdString(parameter.id));
    ramp->setToolTip(QString::fromStdString(parameter.help));
    card.onRefresh([&card, ramp, &parameter] { ramp->setStops(std::get<scene::ColourStops>(card.value(parameter))); });
    QObject::connect(
        ramp, &ColourRamp::stopsEdited, &card,
        [&card, &parameter](const scene::ColourStops& stops, bool dragging) { card.set(parameter, stops, dragging); });
    QObject::connect(ramp, &ColourRamp::editingEnded, &card, &Card::endGesture);
    return ramp;
}

/// Anything that can be typed, at the end of a row.
void typedField(Card& card, const Parameter& parameter, QWidget* row)
{
    const Theme& t = Theme::now();
    auto* field = new QLineEdit(row);
    field->setFont(figureFont(11));
    field->setAlignment(Qt::AlignRight);
    field->setStyleSheet(QString("QLineEdit{border:1px solid %1;background:%2;color:%3;padding:2px "
                                 "5px}QLineEdit:focus{border-color:%4}")
                             .arg(t.rule.name(), t.field.name(), t.text.name(), t.accent.name()));
    field->setMinimumWidth(100);
    field->setMaximumWidth(150);
    field->setObjectName(QString::fromStdString(parameter.id));
    field->setToolTip(QString::fromStdString(parameter.help));
    qobject_cast<QBoxLayout*>(row->layout())->addWidget(field, 100);
    const auto pull = [&card, field, &parameter] {
        field->setText(QString::fromStdString(parameter.shown(card.value(parameter))));
    };
    card.onRefresh(pull);
    QObject::connect(field, &QLineEdit::editingFinished, &card, [&card, field, pull, &parameter] {
        if (field->text() == QString::fromStdString(parameter.shown(card.value(parameter))))
            return;
        try {
            card.set(parameter, parameter.parsed(field->text().toStdString()));
        } catch (const std::invalid_argument& bad) {
            Q_EMIT card.session().failed(say("%1. It stays as it was.").arg(troubleOf(bad)));
            pull();
        }
    });
}

QWidget* colourEditor(Card& card, const Parameter& parameter)
{
    QWidget* row = labelled(card, parameter);
    auto* swatch = new QPushButton(row);
    swatch->setFixedSize(24, 18);
    swatch->setToolTip(say("Choose a colour"));
    row->layout()->addWidget(swatch);
    card.onRefresh([&card, swatch, &parameter] {
        const QColor c = displayColour(std::get<Vec3>(card.value(parameter)));
        swatch->setStyleSheet(
            QString("QPushButton{background:%1;border:1px solid %2}QPushButton:focus{border:3px solid %3}")
                .arg(c.name(), Theme::now().rule.name(), Theme::now().accent.name()));
    });
    QObject::connect(swatch, &QPushButton::clicked, &card, [&card, &parameter] {
        const QColor c = QColorDialog::getColor(displayColour(std::get<Vec3>(card.value(parameter))), &card,
                                                QString::fromStdString(parameter.label));
        if (c.isValid())
            card.set(parameter, parameter.parsed(c.name().toStdString()));
    });
    typedField(card, parameter, row);
    return row;
}
} // namespace

QWidget* tonesEditor(Card& card, const Parameter& parameter) { return curveFor(card, parameter); }

QWidget* textEditor(Card& card, const Parameter& parameter)
{
    QWidget* row = labelled(card, parameter);
    typedField(card, parameter, row);
    return row;
}

QWidget* fileEditor(Card& card, const Parameter& parameter)
{
    QWidget* row = labelled(card, parameter);
    auto* name = new QPushButton(row);
    name->setStyleSheet(plainButton());
    name->setObjectName(QString::fromStdString(parameter.id));
    row->layout()->addWidget(name);
    card.onRefresh([&card, name, &parameter] {
        const QString file = QString::fromStdString(std::get<std::string>(card.value(parameter)));
        name->setText(file.isEmpty() ? say("choose a file…")
                                     : besideLabel(*name, parameter, QFileInfo(file).fileName()));
        name->setToolTip(file);
    });
    QObject::connect(name, &QPushButton::clicked, &card, [&card, &parameter] {
        const QString file = QFileDialog::getOpenFileName(
            &card, QString::fromStdString(card.now().kind->label + ": " + parameter.label), {},
            QString::fromStdString(parameter.files));
        if (!file.isEmpty())
            card.set(parameter, card.session().document().relative(file));
    });
    return row;
}

QWidget* profileEditor(Card& card, const Parameter& parameter)
{
    QWidget* row = fileEditor(card, parameter);
    auto* drawing = new ProfileDrawing(&card);
    const auto draw = [&card, drawing] {
        const auto shot = card.session().picture().shot();
        std::shared_ptr<const light::Profile> profile;
        if (shot)
            for (const light::Lamp& l : shot->lamps)
                if (l.id == card.element())
                    profile = l.profile;
        drawing->setProfile(profile);
    };
    draw();
    card.onShot(draw);
    return under(row, drawing);
}

QWidget* goboEditor(Card& card, const Parameter& parameter)
{
    QWidget* row = textEditor(card, parameter);
    auto* pad = new GoboPad(&card);
    card.onRefresh([&card, pad, &parameter] { pad->setDrawing(std::get<std::string>(card.value(parameter))); });
    QObject::connect(pad, &GoboPad::drawingEdited, &card, [&card, &parameter](const QString& text, bool dragging) {
        card.set(parameter, text.toStdString(), dragging);
    });
    QObject::connect(pad, &GoboPad::editingEnded, &card, &Card::endGesture);
    return under(row, pad);
}

QWidget* wavesEditor(Card& card, const Parameter& parameter)
{
    QWidget* row = rulerFor(card, parameter);
    auto* drawing = new WavesDrawing(&card);
    card.onRefresh([&card, drawing] {
        const scene::Project& project = card.session().project();
        const auto water = elements::waterLevelOf(project, card.now());
        drawing->setWaves(water ? std::optional(water->swell) : std::nullopt, water && water->waves->wind.empty());
    });
    const auto sets = [&card](const char* id) {
        return [&card, id](double value) {
            card.set(*scene::findParameter(card.now().kind->parameters, id), value, true);
        };
    };
    QObject::connect(drawing, &WavesDrawing::headingEdited, &card, sets("heading"));
    QObject::connect(drawing, &WavesDrawing::narrowEdited, &card, sets("narrow"));
    QObject::connect(drawing, &WavesDrawing::windEdited, &card, sets("speed"));
    QObject::connect(drawing, &WavesDrawing::editingEnded, &card, &Card::endGesture);
    return under(row, drawing);
}

bool isNarrow(const Parameter& parameter)
{
    // Two beside each other have room for a name and its number.
    return parameter.editor != "waves" && (parameter.type == ValueType::Number || parameter.type == ValueType::Whole) &&
           QFontMetrics(textFont(12)).horizontalAdvance(QString::fromStdString(parameter.label)) <= 68;
}

QWidget* editorFor(Card& card, const Parameter& parameter)
{
    using Make = QWidget* (*)(Card&, const Parameter&);
    static const std::map<std::string, Make> named{
        {"density", densityEditor}, {"balls", ballEditor},       {"grids", gridsEditor}, {"profile", profileEditor},
        {"tones", tonesEditor},     {"goboDrawing", goboEditor}, {"faces", facesEditor}, {"waves", wavesEditor}};
    if (const auto own = named.find(parameter.editor); own != named.end())
        return own->second(card, parameter);
    if (!parameter.linksTo.empty())
        return linkEditor(card, parameter);
    switch (parameter.type) {
    case ValueType::Number:
    case ValueType::Whole: return numberEditor(card, parameter);
    case ValueType::Switch: return switchEditor(card, parameter);
    case ValueType::Choice: return choiceEditor(card, parameter);
    case ValueType::File: return fileEditor(card, parameter);
    case ValueType::Colour: return colourEditor(card, parameter);
    case ValueType::Curve: return sharesEditor(card, parameter);
    case ValueType::Stops: return stopsEditor(card, parameter);
    case ValueType::Text:
    case ValueType::Point: break;
    }
    return textEditor(card, parameter);
}
} // namespace hygros::app
