#pragma once
/// Takes a picture away: file, size, samples, layers; renders in the background with progress and cancel.
#include "app/session.h"

#include <QDialog>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QProgressBar;
class QPushButton;
class QSpinBox;

namespace hygros::app {

class ExportDialog : public QDialog {
    Q_OBJECT
public:
    ExportDialog(Session& session, QWidget* parent = nullptr);

private:
    void browse();
    void start();
    void end();
    int job_ = 0;
    void tell();

    Session& session_;
    QLineEdit* file_;
    QSpinBox *width_, *height_, *samples_, *denoise_;
    QComboBox* integrator_;
    QLineEdit *noise_, *time_;
    QLabel *samplesLabel_, *noiseLabel_, *timeLabel_;
    QCheckBox *layers_, *lamps_, *water_, *glow_, *holdout_;
    bool hasWater_ = false;
    QLabel* note_;
    QProgressBar* progress_;
    QPushButton *go_, *close_;
    bool running_ = false;
};
} // namespace hygros::app
