#pragma once
/// What fields of a card show of keys and stirs, and what their menu and keys do with them.
#include "scene/project.h"

#include <QPointF>
#include <optional>

class QColor;
class QMenu;
class QPainter;
class QWidget;

namespace hygros::app {

class Card;

/// How a value changes over time, where one stands.
struct MotionMark {
    bool keyed = false, here = false, stirred = false;
    std::optional<double> before, after; ///< of a number: what the keys beside say
    bool operator==(const MotionMark&) const = default;
};
MotionMark motionMark(const scene::Element& element, const scene::Parameter& parameter, double frame);

/// The field shows it from now on.
void followKeys(Card& card, const scene::Parameter& parameter, QWidget* field);
/// Sets or removes a key at the frame shown, of all that are chosen together with the card's element.
void setKeyHere(Card& card, const scene::Parameter& parameter, bool there);
/// What can be done with a parameter's keys.
void addKeyActions(QMenu& menu, Card& card, const scene::Parameter& parameter);
/// A pin whose head stands at a place: full where a key is, hollow between keys; a wave where stirs are laid over it.
void drawMark(QPainter& p, const QPointF& head, const MotionMark& mark, const QColor& colour);
} // namespace hygros::app
