#pragma once
/// What a card offers beyond its parameters: what its kind names.
#include <QString>
#include <functional>
#include <string>
#include <vector>

namespace hygros::elements {
struct Kind;
}

namespace hygros::app {
class Session;

struct CardAction {
    QString id, label, help;
    std::function<void(Session&, const std::string& element)> run;
};
std::vector<CardAction> actionsOf(const elements::Kind& kind);
} // namespace hygros::app
