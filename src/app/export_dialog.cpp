#include "app/export_dialog.h"

#include "app/theme.h"
#include "app/words.h"
#include "base/error.h"
#include "elements/water.h"
#include "finish/deliver.h"
#include "render/still.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QProgressBar>
#include <QPushButton>
#include <QSpinBox>

#include <QPointer>

namespace hygros::app {

ExportDialog::ExportDialog(Session& session, QWidget* parent) : QDialog(parent), session_(session)
{
    setWindowTitle(say("Export picture"));
    setObjectName("exportDialog");
    setMinimumWidth(520);
    auto* table = new QGridLayout(this);
    table->setContentsMargins(18, 16, 18, 16);
    table->setVerticalSpacing(10);
    const QString start = session.document().file().isEmpty()
                              ? QDir::homePath() + "/picture.exr"
                              : QFileInfo(session.document().file()).absolutePath() + "/" +
                                    QFileInfo(session.document().file()).completeBaseName() + ".exr";
    file_ = new QLineEdit(start, this);
    file_->setObjectName("exportFile");
    file_->setAccessibleName(say("File to write"));
    auto* choose = new QPushButton(say("Browse…"), this);
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
    width_ = spin(8, 16384, Picture::deliveredWidth(), "exportWidth", " px");
    height_ = spin(8, 16384, 1080, "exportHeight", " px");
    samples_ = spin(1, 65536, 64, "exportSamples", "");
    integrator_ = new QComboBox(this);
    integrator_->setObjectName("exportIntegrator");
    integrator_->addItem(say("Live: as in the window"));
    integrator_->addItem(say("Reference: path-traced, slow, without approximations"));
    const auto line = [&](const char* name, const char* text, const QString& placeholder, const QString& tip) {
        auto* e = new QLineEdit(text, this);
        e->setObjectName(name);
        e->setPlaceholderText(placeholder);
        e->setToolTip(tip);
        e->setFont(figureFont(12));
        return e;
    };
    noise_ = line("exportNoise", "2 %", say("no end by noise"),
                  say("The reference ends once what is left of noise is under this; paths go where it is noisy."));
    time_ = line("exportTime", "", say("no limit"), say("The reference ends after so long, such as 10 min."));
    denoise_ = spin(0, 100, 0, "exportDenoise", " %");
    denoise_->setToolTip(say("Share of the denoised picture in every layer; 0 leaves them as measured."));
    layers_ = new QCheckBox(say("All layers: plate, transmittance, air light together and by lamp, depth"), this);
    layers_->setObjectName("exportLayers");
    layers_->setChecked(true);
    lamps_ = new QCheckBox(say("By lamp: the set's light and the shadows in the air as well"), this);
    lamps_->setObjectName("exportLamps");
    water_ = new QCheckBox(
        say("Water by its parts: mirrored, seen through, foam, gathered light, mask (six times as long)"), this);
    water_->setObjectName("exportWater");
    glow_ = new QCheckBox(say("Glow of the look in the EXR too, which stays linear"), this);
    glow_->setObjectName("exportGlow");
    holdout_ = new QCheckBox(say("Hold the set out: black with alpha 0, it still hides and shades (for beams alone)"),
                             this);
    holdout_->setObjectName("exportHoldout");
    note_ = new QLabel(this);
    note_->setWordWrap(true);
    note_->setMinimumHeight(2 * QFontMetrics(note_->font()).lineSpacing());
    note_->setStyleSheet("color:" + Theme::now().quiet.name());
    progress_ = new QProgressBar(this);
    progress_->setRange(0, 1000);
    progress_->setTextVisible(false);
    progress_->setFixedHeight(5);
    progress_->setStyleSheet(QString("QProgressBar{border:none;background:%1}QProgressBar::chunk{background:%2}")
                                 .arg(Theme::now().rule.name(), Theme::now().accent.name()));
    progress_->hide();
    go_ = new QPushButton(say("Export"), this);
    go_->setObjectName("exportGo");
    go_->setDefault(true);
    close_ = new QPushButton(say("Close"), this);
    close_->setAutoDefault(false);
    close_->setObjectName("exportClose");
    table->addWidget(new QLabel(say("File"), this), 0, 0);
    table->addWidget(file_, 0, 1, 1, 3);
    table->addWidget(choose, 0, 4);
    table->addWidget(new QLabel(say("Size"), this), 1, 0);
    table->addWidget(width_, 1, 1);
    table->addWidget(new QLabel(say("by"), this), 1, 2);
    table->addWidget(height_, 1, 3);
    table->addWidget(new QLabel(say("Integrator"), this), 2, 0);
    table->addWidget(integrator_, 2, 1, 1, 4);
    table->addWidget(samplesLabel_ = new QLabel(say("Samples"), this), 3, 0);
    table->addWidget(samples_, 3, 1);
    table->addWidget(noiseLabel_ = new QLabel(say("Ends under noise of"), this), 4, 0);
    table->addWidget(noise_, 4, 1);
    table->addWidget(timeLabel_ = new QLabel(say("or after"), this), 4, 2);
    table->addWidget(time_, 4, 3);
    table->addWidget(new QLabel(say("Denoised"), this), 5, 0);
    table->addWidget(denoise_, 5, 1);
    table->addWidget(layers_, 6, 1, 1, 4);
    table->addWidget(lamps_, 7, 1, 1, 4);
    table->addWidget(water_, 8, 1, 1, 4);
    table->addWidget(glow_, 9, 1, 1, 4);
    table->addWidget(holdout_, 10, 1, 1, 4);
    table->addWidget(note_, 11, 0, 1, 5);
    for (const auto& [field, name] : std::initializer_list<std::pair<QWidget*, const char*>>{
             {width_, QT_TRANSLATE_NOOP("window", "Width")},
             {height_, QT_TRANSLATE_NOOP("window", "Height")},
             {samples_, QT_TRANSLATE_NOOP("window", "Samples")},
             {integrator_, QT_TRANSLATE_NOOP("window", "Integrator")},
             {noise_, QT_TRANSLATE_NOOP("window", "Noise it ends under")},
             {time_, QT_TRANSLATE_NOOP("window", "Time it ends after")},
             {denoise_, QT_TRANSLATE_NOOP("window", "Share denoised")}})
        field->setAccessibleName(say(name));
    table->addWidget(progress_, 12, 0, 1, 5);
    auto* row = new QHBoxLayout;
    row->addStretch(1);
    row->addWidget(close_);
    row->addWidget(go_);
    table->addLayout(row, 13, 0, 1, 5);
    setMinimumWidth(std::max(520, table->minimumSize().width())); // of what stands there in this language
    connect(integrator_, &QComboBox::currentIndexChanged, this, [this](int reference) {
        samples_->setValue(reference ? 4096 : 64);
        tell();
    });
    for (QLineEdit* e : {noise_, time_})
        connect(e, &QLineEdit::textChanged, this, &ExportDialog::tell);
    connect(choose, &QPushButton::clicked, this, &ExportDialog::browse);
    connect(go_, &QPushButton::clicked, this, &ExportDialog::start);
    connect(close_, &QPushButton::clicked, this, [this] {
        if (running_)
            session_.jobs().cancel(job_);
        else
            reject();
    });
    connect(file_, &QLineEdit::textChanged, this, &ExportDialog::tell);
    connect(layers_, &QCheckBox::toggled, this, &ExportDialog::tell);
    hasWater_ = elements::waterNear(session.document().whole()).has_value();
    connect(&session.jobs(), &Jobs::changed, this, [this] {
        if (!running_)
            return;
        for (const Jobs::State& job : session_.jobs().states())
            if (job.id == job_) {
                progress_->setValue(static_cast<int>(job.progress * 1000));
                note_->setText(job.message);
            }
    });
    tell();
}

void ExportDialog::tell()
{
    const bool exr = file_->text().endsWith(".exr", Qt::CaseInsensitive),
               png = file_->text().endsWith(".png", Qt::CaseInsensitive);
    layers_->setEnabled(exr);
    lamps_->setEnabled(exr && layers_->isChecked());
    glow_->setEnabled(exr);
    const bool reference = integrator_->currentIndex() == 1;
    water_->setVisible(hasWater_);
    water_->setEnabled(exr && layers_->isChecked() && !reference);
    for (QWidget* w : {static_cast<QWidget*>(noise_), static_cast<QWidget*>(time_), static_cast<QWidget*>(noiseLabel_),
                       static_cast<QWidget*>(timeLabel_)})
        w->setVisible(reference);
    samplesLabel_->setText(reference ? say("Paths at most") : say("Samples"));
    const auto given = [](const QLineEdit* e, Quantity q, double least, double most) {
        const auto v = parseQuantity(e->text().toStdString(), q);
        return e->text().trimmed().isEmpty() || (v && *v >= least && *v <= most);
    };
    const bool noiseFits = !reference || given(noise_, Quantity::Share, 1e-4, 0.5),
               timeFits = !reference || given(time_, Quantity::Time, 0.01, 1e7);
    go_->setEnabled((exr || png) && noiseFits && timeFits);
    if (!noiseFits || !timeFits) {
        note_->setText(noiseFits ? say("The time must be like 90 s, 10 min or 2 h; empty for no limit.")
                                 : say("The noise must be from 0.01 % to 50 %; empty for no end by noise."));
        return;
    }
    note_->setText(exr   ? say("Linear light, 32-bit float, without the look. Beauty = plate × transmittance + air.")
                   : png ? say("As shown, through the look: 8-bit sRGB.")
                         : say("The name must end in .exr or .png."));
}

void ExportDialog::browse()
{
    const QString f = QFileDialog::getSaveFileName(this, say("Export picture"), file_->text(),
                                                   say("OpenEXR (*.exr);;PNG (*.png)"));
    if (!f.isEmpty())
        file_->setText(f);
}

void ExportDialog::end()
{
    running_ = false;
    progress_->hide();
    go_->setEnabled(true);
    close_->setText(say("Close"));
    tell();
}

void ExportDialog::start()
{
    if (running_)
        return;
    render::StillSettings settings;
    settings.width = width_->value();
    Picture::setDeliveredWidth(settings.width);
    settings.height = height_->value();
    settings.samples = samples_->value();
    settings.denoise = static_cast<float>(denoise_->value()) / 100.f;
    if (integrator_->currentIndex() == 1) {
        settings.air = render::StillAir::Paths;
        settings.noise = static_cast<float>(parseQuantity(noise_->text().toStdString(), Quantity::Share).value_or(0.0));
        settings.seconds = parseQuantity(time_->text().toStdString(), Quantity::Time).value_or(0.0);
    }
    scene::Project project = session_.document().whole();
    if (holdout_->isChecked())
        elements::holdOut(project, "all");
    settings.layers = {layers_->isChecked() && lamps_->isChecked(), layers_->isChecked() && lamps_->isChecked(),
                       layers_->isChecked(), hasWater_ && water_->isEnabled() && water_->isChecked()};
    settings.followsPaths = session_.picture().followsPaths();
    const bool all = layers_->isChecked();
    const QString file = file_->text();
    running_ = true;
    progress_->setValue(0);
    progress_->show();
    go_->setEnabled(false);
    close_->setText(say("Cancel"));
    job_ = session_.jobs().run(
        say("Exporting ") + QFileInfo(file).fileName(),
        [project, settings, all, glow = glow_->isChecked(), file, store = session_.sharedStore()](JobControl& job) {
            const auto open = elements::freezeOpen(project, *store, job, elements::shutterPieces(settings.samples));
            const auto shot = open.front();
            const render::Layers layers = render::renderStill({open.begin(), open.end()}, settings, job);
            const finish::Delivery delivery{project.name, shot->frame, shot->look, all, glow};
            if (file.endsWith(".exr", Qt::CaseInsensitive))
                finish::deliverExr(file.toStdString(), layers, delivery);
            else
                finish::deliverPng(file.toStdString(), layers, delivery);
        },
        [dialog = QPointer<ExportDialog>(this), file] {
            if (dialog) {
                dialog->end();
                dialog->note_->setText(say("Written: ") + file);
            }
        },
        [dialog = QPointer<ExportDialog>(this)] {
            if (dialog)
                dialog->end();
        });
}
} // namespace hygros::app
