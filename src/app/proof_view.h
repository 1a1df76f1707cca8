#pragma once
/// The Bench page of the proof that the Picture is held against: its note, and what differs now, in words.
#include "app/session.h"

#include <QTimer>
#include <QWidget>

class QLabel;
class QLineEdit;
class QPushButton;
class QVBoxLayout;

namespace hygros::app {

class ProofView : public QWidget {
    Q_OBJECT
public:
    explicit ProofView(Session& session, QWidget* parent = nullptr);

private:
    void show();
    void fill();
    Session& session_;
    QWidget* whole_;
    QLabel *empty_, *about_, *count_;
    QLineEdit* note_;
    QPushButton *back_, *forget_;
    QWidget* list_;
    QVBoxLayout* column_;
    QTimer timer_; ///< while something is dragged the list need not follow at once
};
} // namespace hygros::app
