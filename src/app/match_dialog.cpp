#include "app/match_dialog.h"

#include "app/theme.h"
#include "app/words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QImageReader>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

namespace hygros::app {
namespace {
/// The planes' tones on one scale of stops: as the photograph has them, as the picture has, and as it would.
class ToneLadder : public QWidget {
public:
    ToneLadder(const reading::ShownTones& wanted, const std::optional<reading::Match>& found, QWidget* parent)
        : QWidget(parent), wanted_(wanted), found_(found)
    {
        setObjectName("toneLadder");
        setFixedHeight(112);
    }

protected:
    void paintEvent(QPaintEvent*) override
    {
        const Theme& t = Theme::now();
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        const QRectF area(64.0, 6.0, width() - 64.0 - 12.0, height() - 28.0);
        const auto x = [&](double stop) { return area.left() + (stop + 8.0) / 11.0 * area.width(); };
        p.setFont(figureFont(10));
        for (int stop = -8; stop <= 3; ++stop) {
            p.setPen(stop == 0 ? t.quiet : t.rule);
            p.drawLine(QPointF(x(stop), area.top()), QPointF(x(stop), area.bottom()));
            p.setPen(t.quiet);
            p.drawText(QRectF(x(stop) - 24, area.bottom() + 4, 48, 14), Qt::AlignCenter,
                       stop > 0 ? QString("+%1").arg(stop) : QString::number(stop));
        }
        for (int i = 0; i < 3; ++i) {
            const double y = area.top() + area.height() * (i + 0.5) / 3.0;
            p.setFont(textFont(12));
            p.setPen(t.text);
            p.drawText(QRectF(0, y - 9, 58, 18), Qt::AlignRight | Qt::AlignVCenter, say(PlaneBoxes::names[i]));
            const auto mark = [&](const reading::ShownTone& tone, const QColor& hue, bool filled, double half) {
                if (tone.pixels == 0)
                    return;
                p.setPen(QPen(hue, 1.6));
                p.setBrush(filled ? QBrush(hue) : Qt::NoBrush);
                p.drawRect(QRectF(x(std::clamp(double(tone.stops), -8.0, 3.0)) - 3.0, y - half, 6.0, 2.0 * half));
            };
            const auto at = static_cast<std::size_t>(i);
            mark(wanted_[at], t.text, false, 11.0);
            if (found_) {
                mark(found_->before[at], t.quiet, true, 4.0);
                mark(found_->after[at], t.accent, true, 7.0);
            }
        }
    }

private:
    const reading::ShownTones& wanted_;
    const std::optional<reading::Match>& found_;
};
} // namespace

MatchDialog::MatchDialog(Session& session, QWidget* parent) : QDialog(parent), session_(session)
{
    setObjectName("match");
    setWindowTitle(say("Match to a photograph"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 14, 16, 12);
    column->setSpacing(10);
    auto* head = new QHBoxLayout;
    name_ = new QLabel(this);
    name_->setFont(textFont(13, QFont::DemiBold));
    auto* choose = new QPushButton(say("Photograph…"), this);
    choose->setObjectName("matchChoose");
    choose->setAutoDefault(false);
    head->addWidget(name_, 1);
    head->addWidget(choose);
    column->addLayout(head);
    boxes_ = new PlaneBoxes(this);
    column->addWidget(boxes_, 1);
    ladder_ = new ToneLadder(wanted_, found_, this);
    column->addWidget(ladder_);
    auto* key = new QLabel(
        say("Mean tone of each plane in stops around middle grey: outlined the photograph, small this "
            "picture, filled as matched."),
        this);
    key->setWordWrap(true);
    key->setFont(textFont(11));
    key->setStyleSheet("color:" + Theme::now().quiet.name());
    column->addWidget(key);
    auto* wishes = new QHBoxLayout;
    wishes->setSpacing(14);
    exposure_ = new QCheckBox(say("exposure"), this);
    exposure_->setObjectName("matchExposure");
    neutral_ = new QCheckBox(say("neutral point"), this);
    neutral_->setObjectName("matchNeutral");
    exposure_->setChecked(true);
    neutral_->setChecked(true);
    element_ = new QComboBox(this);
    element_->setObjectName("matchElement");
    element_->setAccessibleName(say("Whose visibility is matched"));
    element_->addItem(say("no visibility"), QString());
    int haze = 0;
    for (const scene::Element& e : session_.project().elements) {
        const scene::Parameter* p = scene::findParameter(e.kind->parameters, "visibility");
        if (e.kind->family != scene::Family::Air || !p || session_.project().silent(e) ||
            !scene::applies(e.kind->parameters, *p, *e.settings))
            continue;
        element_->addItem(say("visibility of ") + QString::fromStdString(e.name), QString::fromStdString(e.id));
        if (haze == 0 && e.kind->id == "haze")
            haze = element_->count() - 1;
    }
    element_->setCurrentIndex(haze);
    go_ = new QPushButton(say("Match"), this);
    go_->setObjectName("matchGo");
    wishes->addWidget(exposure_);
    wishes->addWidget(neutral_);
    wishes->addWidget(element_);
    wishes->addStretch(1);
    wishes->addWidget(go_);
    column->addLayout(wishes);
    words_ = new QLabel(this);
    words_->setObjectName("matchWords");
    words_->setWordWrap(true);
    words_->setMinimumHeight(52);
    words_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    column->addWidget(words_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
    buttons->button(QDialogButtonBox::Close)->setIcon({});
    take_ = buttons->addButton(say("Take it over"), QDialogButtonBox::ActionRole);
    take_->setObjectName("matchTake");
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(take_, &QPushButton::clicked, this, &MatchDialog::take);
    connect(go_, &QPushButton::clicked, this, &MatchDialog::match);
    connect(choose, &QPushButton::clicked, this, [this] {
        const QString file = QFileDialog::getOpenFileName(this, say("Match to"), {},
                                                          say("Pictures (*.png *.jpg *.jpeg *.tif *.tiff *.webp)"));
        if (!file.isEmpty())
            usePhotograph(file);
    });
    connect(boxes_, &PlaneBoxes::changed, this, [this] {
        wanted_ = boxes_->tones();
        found_.reset();
        renew();
    });
    connect(&session_.jobs(), &Jobs::changed, this, &MatchDialog::renew);
    for (QCheckBox* box : {exposure_, neutral_})
        connect(box, &QCheckBox::toggled, this, &MatchDialog::renew);
    renew();
    resize(620, 690);
}

MatchDialog::~MatchDialog()
{
    if (job_)
        session_.jobs().cancel(job_);
}

bool MatchDialog::usePhotograph(const QString& file)
{
    QImageReader reader(file);
    reader.setAutoTransform(true);
    const QImage image = reader.read();
    if (image.isNull()) {
        words_->setText(
            say("“%1” cannot be read as a picture: %2.").arg(QFileInfo(file).fileName(), reader.errorString()));
        return false;
    }
    name_->setText(QFileInfo(file).fileName());
    boxes_->setPicture(image);
    return true;
}

void MatchDialog::match()
{
    if (job_) {
        session_.jobs().cancel(job_);
        return;
    }
    reading::MatchWishes wishes;
    wishes.exposure = exposure_->isChecked();
    wishes.neutral = neutral_->isChecked();
    wishes.element = element_->currentData().toString().toStdString();
    if (const auto& borders = session_.readings().planeBorders(); borders.size() == 2)
        wishes.borders = {borders[0], borders[1]};
    found_.reset();
    auto result = std::make_shared<reading::Match>();
    const QPointer<MatchDialog> here(this);
    job_ = session_.jobs().run(
        say("Match to a photograph"),
        [result, wishes, tones = wanted_, project = session_.document().whole(),
         &store = session_.store()](JobControl& job) { *result = reading::match(project, tones, wishes, store, job); },
        [here, result] {
            if (!here)
                return;
            here->job_ = 0;
            here->found_ = *result;
            here->renew();
        },
        [here] {
            if (!here)
                return;
            here->job_ = 0;
            here->renew();
        });
    renew();
}

void MatchDialog::take()
{
    if (!found_)
        return;
    session_.document().edit(say("Match to a photograph"), [this](scene::Project& p) {
        for (const auto& [path, value] : found_->settings)
            p.setPath(path, value);
    });
    accept();
}

void MatchDialog::renew()
{
    const bool isReady = !boxes_->picture().isNull();
    go_->setText(job_ ? say("Stop") : say("Match"));
    go_->setEnabled(job_ || (isReady && (exposure_->isChecked() || neutral_->isChecked() ||
                                         !element_->currentData().toString().isEmpty())));
    take_->setEnabled(found_.has_value());
    ladder_->update();
    if (job_) {
        for (const Jobs::State& s : session_.jobs().states())
            if (s.id == job_)
                words_->setText(say("Matching: %1 %").arg(std::lround(s.progress * 100.0)));
        return;
    }
    if (!found_) {
        if (isReady)
            words_->setText(
                say("Tones are read as sRGB; what a camera's own curve did to them is not known. What is matched "
                    "is a start, not the end."));
        return;
    }
    const reading::Match& m = *found_;
    QStringList fitted;
    if (m.visibility)
        fitted << say("visibility ") + QString::fromStdString(formatQuantity(*m.visibility, Quantity::Visibility));
    if (m.exposure)
        fitted << say("exposure %1 stops").arg(figure(*m.exposure, 2));
    if (m.neutral)
        fitted << say("neutral at ") + QString::fromStdString(formatQuantity(*m.neutral, Quantity::Temperature));
    const QString grade = m.missAfter < 0.1    ? say("The planes stand as in the photograph")
                          : m.missAfter < 0.34 ? say("The planes stand nearly as in the photograph")
                                               : say("The planes cannot be brought to the photograph's by these alone");
    words_->setText(QString("%1. %2: %3 stops apart, %4 before; colours %5, %6 before.")
                        .arg(fitted.join(", "), grade)
                        .arg(figure(m.missAfter, 2))
                        .arg(figure(m.missBefore, 2))
                        .arg(figure(m.colourAfter, 3))
                        .arg(figure(m.colourBefore, 3)));
}
} // namespace hygros::app
