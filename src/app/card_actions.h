#pragma once
/// What a card offers beyond its parameters, by kind of element.
#include <QString>
#include <functional>
#include <string>
#include <vector>

namespace hygros::app {
class Session;

struct CardAction {
    QString id, label, help;
    std::function<void(Session&, const std::string& element)> run;
};
std::vector<CardAction> actionsOf(const std::string& kind);
} // namespace hygros::app
