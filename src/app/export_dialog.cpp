#include "app/export_dialog.h"

#include "app/theme.h"
#include "base/error.h"
#include "finish/deliver.h"
#include "render/still.h"

#include <QCheckBox>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QProgressBar>
#include <QPushButton>
#include <QSpinBox>

namespace hygros::app {

ExportDialog::ExportDialog(Session& session, QWidget* parent) : QDialog(parent), session_(session)
{
    setWindowTitle("Export picture");
    setObjectName("exportDialog");
    setMinimumWidth(520);
    auto* table = new QGridLayout(this);
    table->setContentsMargins(18, 16, 18, 16);
    table->setVerticalSpacing(10);
    const QString start = session.file().isEmpty() ? QDir::homePath() + "/picture.exr"
                                                   : QFileInfo(session.file()).absolutePath() + "/" + QFileInfo(session.file()).completeBaseName() + ".exr";
    file_ = new QLineEdit(start, this);
    file_->setObjectName("exportFile");
    auto* choose = new QPushButton("Browse…", this);
    choose->setAutoDefault(false);
    const auto spin = [&](int lo, int hi, int value, const char* name, const char* suffix) {
        auto* s = new QSpinBox(this);
        s->setRange(lo, hi);
        s->setValue(value);
        s->setFont(figureFont(12));
        s->setObjectName(name);
        s->setSuffix(suffix);
        return s;
    };
    width_ = spin(8, 16384, 1920, "exportWidth", " px");
    height_ = spin(8, 16384, 1080, "exportHeight", " px");
    samples_ = spin(1, 65536, 64, "exportSamples", "");
    layers_ = new QCheckBox("All layers: plate, transmittance, air light together and by lamp, depth", this);
    layers_->setObjectName("exportLayers");
    layers_->setChecked(true);
    lamps_ = new QCheckBox("By lamp: the set's light and the shadows in the air as well", this);
    lamps_->setObjectName("exportLamps");
    holdout_ = new QCheckBox("Hold the set out: black with alpha 0, it still hides and shades (for beams alone)", this);
    holdout_->setObjectName("exportHoldout");
    note_ = new QLabel(this);
    note_->setWordWrap(true);
    note_->setStyleSheet("color:" + Theme::now().quiet.name());
    progress_ = new QProgressBar(this);
    progress_->setRange(0, 1000);
    progress_->setTextVisible(false);
    progress_->setFixedHeight(5);
    progress_->setStyleSheet(QString("QProgressBar{border:none;background:%1}QProgressBar::chunk{background:%2}").arg(Theme::now().rule.name(), Theme::now().accent.name()));
    progress_->hide();
    go_ = new QPushButton("Export", this);
    go_->setObjectName("exportGo");
    go_->setDefault(true);
    close_ = new QPushButton("Close", this);
    close_->setAutoDefault(false);
    close_->setObjectName("exportClose");
    table->addWidget(new QLabel("File", this), 0, 0);
    table->addWidget(file_, 0, 1, 1, 3);
    table->addWidget(choose, 0, 4);
    table->addWidget(new QLabel("Size", this), 1, 0);
    table->addWidget(width_, 1, 1);
    table->addWidget(new QLabel("by", this), 1, 2);
    table->addWidget(height_, 1, 3);
    table->addWidget(new QLabel("Samples", this), 2, 0);
    table->addWidget(samples_, 2, 1);
    table->addWidget(layers_, 3, 1, 1, 4);
    table->addWidget(lamps_, 4, 1, 1, 4);
    table->addWidget(holdout_, 5, 1, 1, 4);
    table->addWidget(note_, 6, 0, 1, 5);
    table->addWidget(progress_, 7, 0, 1, 5);
    auto* row = new QHBoxLayout;
    row->addStretch(1);
    row->addWidget(close_);
    row->addWidget(go_);
    table->addLayout(row, 8, 0, 1, 5);
    connect(choose, &QPushButton::clicked, this, &ExportDialog::browse);
    connect(go_, &QPushButton::clicked, this, &ExportDialog::start);
    connect(close_, &QPushButton::clicked, this, [this] {
        if (running_)
            session_.cancelJob();
        else
            reject();
    });
    connect(file_, &QLineEdit::textChanged, this, &ExportDialog::tell);
    connect(layers_, &QCheckBox::toggled, this, &ExportDialog::tell);
    connect(&session, &Session::jobChanged, this, [this](const QString& name, double share, const QString& message) {
        if (!running_)
            return;
        if (name.isEmpty()) {
            running_ = false;
            progress_->hide();
            go_->setEnabled(true);
            close_->setText("Close");
            tell();
        } else {
            progress_->setValue(static_cast<int>(share * 1000));
            note_->setText(message);
        }
    });
    tell();
}

void ExportDialog::tell()
{
    const bool exr = file_->text().endsWith(".exr", Qt::CaseInsensitive), png = file_->text().endsWith(".png", Qt::CaseInsensitive);
    layers_->setEnabled(exr);
    lamps_->setEnabled(exr && layers_->isChecked());
    go_->setEnabled(exr || png);
    note_->setText(exr   ? "Linear light, 32-bit float, without the look. Beauty = plate × transmittance + air."
                   : png ? "As shown, through the look: 8-bit sRGB."
                         : "The name must end in .exr or .png.");
}

void ExportDialog::browse()
{
    const QString f = QFileDialog::getSaveFileName(this, "Export picture", file_->text(), "OpenEXR (*.exr);;PNG (*.png)");
    if (!f.isEmpty())
        file_->setText(f);
}

void ExportDialog::start()
{
    if (session_.isBusy())
        return;
    render::StillSettings settings;
    settings.width = width_->value();
    settings.height = height_->value();
    settings.samples = samples_->value();
    scene::Project project = session_.project();
    if (holdout_->isChecked())
        elements::holdOut(project, "all");
    settings.layers = {layers_->isChecked() && lamps_->isChecked(), layers_->isChecked() && lamps_->isChecked()};
    const bool all = layers_->isChecked();
    const QString file = file_->text();
    running_ = true;
    progress_->setValue(0);
    progress_->show();
    go_->setEnabled(false);
    close_->setText("Cancel");
    session_.runJob(
        "Exporting " + QFileInfo(file).fileName(),
        [project, settings, all, file, &cache = session_.cache()](JobControl& job) {
            const auto shot = elements::freeze(project, cache, job);
            const render::Layers layers = render::renderStill(shot, settings, job);
            const finish::Delivery delivery{project.name, project.frame, shot->look, all};
            if (file.endsWith(".exr", Qt::CaseInsensitive))
                finish::deliverExr(file.toStdString(), layers, delivery);
            else
                finish::deliverPng(file.toStdString(), layers, delivery);
        },
        [this, file] { note_->setText("Written: " + file); });
}
} // namespace hygros::app
