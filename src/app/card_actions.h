#pragma once
/// What a card offers beyond its parameters: what its kind names.

class QVBoxLayout;

namespace hygros::app {
class Card;

/// Adds a button for each action of the card's kind to the column; those that are of no use now are hidden.
void offerActions(Card& card, QVBoxLayout* column);
} // namespace hygros::app
