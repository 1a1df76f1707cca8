#pragma once
/// The fields of a card: one for each type of parameter, and those that a parameter names (`Parameter::editor`).
#include "app/card.h"

namespace hygros::app {

/// Shows and sets one parameter of the card's element.
QWidget* editorFor(Card& card, const scene::Parameter& parameter);
/// Whether two of it fit side by side.
bool isNarrow(const scene::Parameter& parameter);

/// The look of a button that opens a menu or a file.
QString plainButton();
/// What reads a card aloud hears whose field it is, where the field itself does not say so.
void nameFields(const scene::Parameter& parameter, QWidget& editor);
/// A line with the parameter's name; what is set stands at its right.
QWidget* labelled(Card& card, const scene::Parameter& parameter);
/// A drawing under its parameter's own line.
QWidget* under(QWidget* row, QWidget* drawing);
/// A text for a button beside a parameter's label, shortened in its middle where it has no room: numbers and endings
/// tell names apart.
QString besideLabel(const QWidget& button, const scene::Parameter& parameter, const QString& text);
LeadRuler* rulerFor(Card& card, const scene::Parameter& parameter);

// Those with a name.
QWidget* densityEditor(Card& card, const scene::Parameter& parameter);
QWidget* ballEditor(Card& card, const scene::Parameter& parameter);
QWidget* gridsEditor(Card& card, const scene::Parameter& parameter);
QWidget* profileEditor(Card& card, const scene::Parameter& parameter);
QWidget* goboEditor(Card& card, const scene::Parameter& parameter);
QWidget* facesEditor(Card& card, const scene::Parameter& parameter);
QWidget* wavesEditor(Card& card, const scene::Parameter& parameter);
QWidget* tonesEditor(Card& card, const scene::Parameter& parameter);
// Those of a type.
QWidget* linkEditor(Card& card, const scene::Parameter& parameter);
QWidget* fileEditor(Card& card, const scene::Parameter& parameter);
QWidget* textEditor(Card& card, const scene::Parameter& parameter);
} // namespace hygros::app
