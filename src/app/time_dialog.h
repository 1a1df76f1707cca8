#pragma once
/// First and last frame, frames a second, shutter, pre-roll and loop.
#include "app/document.h"

#include <QDialog>

class QLabel;
class QLineEdit;

namespace hygros::app {

class TimeDialog : public QDialog {
    Q_OBJECT
public:
    explicit TimeDialog(Document& document, QWidget* parent = nullptr);

private:
    void take();
    Document& document_;
    QLineEdit *first_, *last_, *rate_, *angle_, *phase_, *preRoll_, *loop_;
    QLabel* note_;
};
} // namespace hygros::app
