#pragma once
/// Stirs that are laid over a parameter: each with its kind and numbers, and the curve they make together.
#include "app/document.h"

#include <QDialog>

class QLabel;
class QVBoxLayout;

namespace hygros::app {

class StirDialog : public QDialog {
    Q_OBJECT
public:
    StirDialog(Document& document, const std::string& element, const scene::Parameter& parameter,
               QWidget* parent = nullptr);
    /// What it would become.
    const scene::Track& track() const { return track_; }

private:
    void build();
    void add(scene::Stir::Kind kind);
    void take();
    Document& document_;
    std::string element_;
    const scene::Parameter& parameter_;
    scene::Track track_;
    QVBoxLayout* list_;
    QWidget* rows_ = nullptr;
    QWidget* curve_;
    QLabel* note_;
};
} // namespace hygros::app
