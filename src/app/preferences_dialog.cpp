#include "app/preferences_dialog.h"

#include "app/main_window.h"
#include "app/theme.h"
#include "app/words.h"

#include <QAction>
#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QDoubleSpinBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeySequenceEdit>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenuBar>
#include <QPushButton>
#include <QStackedWidget>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <thread>

namespace hygros::app {

PreferencesDialog::PreferencesDialog(MainWindow& window) : QDialog(&window), window_(window)
{
    setObjectName("preferences");
    setWindowTitle(say("Preferences"));
    resize(720, 520);
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(16, 16, 16, 12);
    auto* sides = new QHBoxLayout;
    sides->setSpacing(18);
    names_ = new QListWidget(this);
    names_->setObjectName("preferencePages");
    names_->setAccessibleName(say("Pages"));
    names_->setFixedWidth(148);
    names_->setFrameShape(QFrame::NoFrame);
    pages_ = new QStackedWidget(this);
    sides->addWidget(names_);
    sides->addWidget(pages_, 1);
    whole->addLayout(sides, 1);

    QVBoxLayout* look = page(say("Window"));
    choice(
        look, "light", say("Panels"), {say("Dark"), say("Light")}, [](const Choices& c) { return c.light ? 1 : 0; },
        [](Choices& c, int i) { c.light = i == 1; });
    static constexpr int scales[] = {75, 100, 125, 150, 175, 200, 250, 300};
    QStringList named;
    for (const int s : scales)
        named << QString("%1 %").arg(s);
    choice(
        look, "scale", say("Size of the interface"), named,
        [](const Choices& c) {
            return static_cast<int>(
                std::min_element(std::begin(scales), std::end(scales),
                                 [&](int a, int b) { return std::abs(a - c.scale) < std::abs(b - c.scale); }) -
                std::begin(scales));
        },
        [](Choices& c, int i) { c.scale = scales[i]; }, say("From the next start."));
    choice(
        look, "lengths", say("Lengths"), {say("Metres"), say("Feet and miles")},
        [](const Choices& c) { return static_cast<int>(c.length); },
        [](Choices& c, int i) { c.length = static_cast<ShownUnits::Length>(i); },
        say("How they are shown; any unit can be typed."));
    choice(
        look, "speeds", say("Speeds"), {"m/s", "km/h"}, [](const Choices& c) { return static_cast<int>(c.speed); },
        [](Choices& c, int i) { c.speed = static_cast<ShownUnits::Speed>(i); });
    choice(
        look, "decimal", say("Decimal sign"), {say("As the system has it"), say("Point"), say("Comma")},
        [](const Choices& c) { return c.decimal; }, [](Choices& c, int i) { c.decimal = i; },
        say("Both are understood when typed; files have points."));
    QStringList names{say("As the system has it")};
    for (const QString& code : languages())
        names << languageName(code);
    choice(
        look, "language", say("Language"), names,
        [](const Choices& c) { return static_cast<int>(languages().indexOf(c.language)) + 1; },
        [](Choices& c, int i) { c.language = i > 0 ? languages()[i - 1] : QString(); }, say("From the next start."));
    look->addStretch(1);

    QVBoxLayout* pictures = page(say("Pictures"));
    amount(
        pictures, "samples", say("Passes of a clean picture"), 1, 65536, 0, "",
        [](const Choices& c) { return c.samples; }, [](Choices& c, double v) { c.samples = static_cast<int>(v); });
    choice(
        pictures, "followsPaths", say("Light in the live picture"),
        {say("By the march alone"), say("Held to traced paths")},
        [](const Choices& c) { return c.followsPaths ? 1 : 0; }, [](Choices& c, int i) { c.followsPaths = i == 1; },
        say("Paths say how much light there is; the march says where."));
    auto* lookRow = new QWidget(this);
    auto* looks = new QHBoxLayout(lookRow);
    looks->setContentsMargins(0, 0, 0, 0);
    auto* own = new QPushButton(say("As this project's look"), lookRow);
    own->setObjectName("defaultLook");
    auto* plain = new QPushButton(say("As delivered"), lookRow);
    plain->setObjectName("deliveredLook");
    looks->addWidget(own);
    looks->addWidget(plain);
    looks->addStretch(1);
    row(pictures, say("New projects begin"), lookRow, say("Exposure, neutral point, tone curve and glow."));
    const auto tellLook = [own, plain] {
        const bool kept = Arranger::hasDefault(*elements::findKind("look"));
        own->setText(kept ? say("As the look that was kept; this one instead") : say("As this project's look"));
        plain->setEnabled(kept);
    };
    tellLook();
    connect(own, &QPushButton::clicked, this, [this, tellLook] {
        window_.session().arranger().saveAsDefault("look");
        tellLook();
    });
    connect(plain, &QPushButton::clicked, this, [this, tellLook] {
        window_.session().arranger().forgetDefault(*elements::findKind("look"));
        tellLook();
    });
    pictures->addStretch(1);

    QVBoxLayout* machine = page(say("Machine"));
    const int there = std::max(1, static_cast<int>(std::thread::hardware_concurrency()));
    QStringList counts{say("All %1").arg(there)};
    for (int i = 1; i < std::min(there, 256); ++i)
        counts << QString::number(i);
    choice(
        machine, "threads", say("Threads that render"), counts, [](const Choices& c) { return c.threads; },
        [](Choices& c, int i) { c.threads = i; }, say("Fewer leave room for what else runs here."));
    amount(
        machine, "kept", say("Memory for what is kept"), 0.1, 512, 1, " GB", [](const Choices& c) { return c.keptGb; },
        [](Choices& c, double v) { c.keptGb = v; },
        say("Sets, volumes and shadows that were read or worked out; what was not used for longest goes first. "
            "Now %1 GB are kept.")
            .arg(figure(static_cast<double>(window.session().store().bytes()) * 1e-9, 2)));
    amount(
        machine, "baked", say("Baked frames of a project"), 0.1, 100000, 1, " GB",
        [](const Choices& c) { return c.bakedGb; }, [](Choices& c, double v) { c.bakedGb = v; },
        say("Beside the project's file. Bakes that are begun keep the limit they had."));
    auto* folderRow = new QWidget(this);
    auto* folder = new QHBoxLayout(folderRow);
    folder->setContentsMargins(0, 0, 0, 0);
    auto* line = new QLineEdit(folderRow);
    line->setObjectName("cacheFolder");
    line->setAccessibleName(say("Folder of reference paths"));
    auto* browse = new QPushButton(say("Browse…"), folderRow);
    folder->addWidget(line, 1);
    folder->addWidget(browse);
    row(machine, say("Reference paths"), folderRow,
        say("Kept here and gone on from. Empty: where the system keeps such files."));
    const auto takeFolder = [this, line](const QString& text) {
        const QString wanted = QDir::cleanPath(text.trimmed());
        if (!text.trimmed().isEmpty() && !QDir().mkpath(wanted)) {
            clash_->setText("“" + wanted + say("” cannot be made: the folder stays as it was."));
            line->setText(Choices::now().cacheFolder);
            return;
        }
        change([&](Choices& c) { c.cacheFolder = text.trimmed().isEmpty() ? QString() : wanted; });
    };
    connect(line, &QLineEdit::editingFinished, this, [line, takeFolder] { takeFolder(line->text()); });
    connect(browse, &QPushButton::clicked, this, [this, line, takeFolder] {
        const QString chosen = QFileDialog::getExistingDirectory(this, say("Folder of reference paths"),
                                                                 Choices::now().cache());
        if (!chosen.isEmpty()) {
            line->setText(chosen);
            takeFolder(chosen);
        }
    });
    pulls_.push_back([line](const Choices& c) { line->setText(c.cacheFolder); });
    amount(
        machine, "cache", say("and no more than"), 0, 100000, 1, " GB", [](const Choices& c) { return c.cacheGb; },
        [](Choices& c, double v) { c.cacheGb = v; });
    machine->addStretch(1);

    makeKeys(page(say("Keyboard")));

    auto* foot = new QHBoxLayout;
    auto* reset = new QPushButton(say("All as delivered"), this);
    reset->setObjectName("preferencesReset");
    reset->setAutoDefault(false);
    auto* close = new QPushButton(say("Close"), this);
    close->setObjectName("preferencesClose");
    clash_ = new QLabel(this);
    clash_->setObjectName("preferencesSaid");
    clash_->setWordWrap(true);
    foot->addWidget(reset);
    foot->addWidget(clash_, 1);
    foot->addWidget(close);
    whole->addLayout(foot);
    connect(close, &QPushButton::clicked, this, &QDialog::close);
    connect(reset, &QPushButton::clicked, this, [this] {
        resetKeys(commandsOf(*window_.menuBar()));
        window_.session().arranger().forgetDefault(*elements::findKind("look"));
        change([](Choices& c) {
            const bool seen = c.firstShown;
            c = Choices();
            c.firstShown = seen;
        });
        pull();
        clash_->setText(say("Everything is as delivered."));
    });
    connect(names_, &QListWidget::currentRowChanged, pages_, &QStackedWidget::setCurrentIndex);
    // Return ends what is typed, and not the dialog.
    for (auto* b : findChildren<QPushButton*>())
        b->setAutoDefault(false);
    restyle();
    pull();
    names_->setCurrentRow(0);
}

void PreferencesDialog::restyle()
{
    const Theme& t = Theme::now();
    names_->setStyleSheet(QString("QListWidget{background:transparent;outline:0}"
                                  "QListWidget::item{padding:6px 10px;color:%1;border-left:3px solid transparent}"
                                  "QListWidget::item:selected{background:%2;color:%3;border-left-color:%4}")
                              .arg(t.quiet.name(), t.raised.name(), t.text.name(), t.accent.name()));
    names_->doItemsLayout();
}

void PreferencesDialog::showPage(int which) { names_->setCurrentRow(which); }

QVBoxLayout* PreferencesDialog::page(const QString& name)
{
    names_->addItem(name);
    auto* p = new QWidget(pages_);
    auto* column = new QVBoxLayout(p);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    pages_->addWidget(p);
    return column;
}

void PreferencesDialog::row(QVBoxLayout* into, const QString& name, QWidget* field, const QString& words)
{
    auto* line = new QHBoxLayout;
    line->setSpacing(12);
    auto* label = new QLabel(name, this);
    label->setFixedWidth(204);
    label->setBuddy(field);
    line->addWidget(label);
    line->addWidget(field, 1);
    into->addLayout(line);
    if (!words.isEmpty()) {
        auto* under = new QLabel(words, this);
        under->setWordWrap(true);
        under->setFont(textFont(11));
        under->setForegroundRole(QPalette::PlaceholderText);
        under->setContentsMargins(188, 0, 0, 0);
        into->addWidget(under);
    }
    into->addSpacing(8);
}

void PreferencesDialog::choice(QVBoxLayout* into, const char* name, const QString& label, const QStringList& all,
                               const std::function<int(const Choices&)>& get,
                               const std::function<void(Choices&, int)>& set, const QString& words)
{
    auto* box = new QComboBox(this);
    box->setObjectName(name);
    box->setAccessibleName(label);
    box->addItems(all);
    row(into, label, box, words);
    connect(box, &QComboBox::currentIndexChanged, this, [this, set](int i) { change([&](Choices& c) { set(c, i); }); });
    pulls_.push_back([box, get](const Choices& c) { box->setCurrentIndex(get(c)); });
}

void PreferencesDialog::amount(QVBoxLayout* into, const char* name, const QString& label, double least, double most,
                               int decimals, const QString& unit, const std::function<double(const Choices&)>& get,
                               const std::function<void(Choices&, double)>& set, const QString& words)
{
    auto* box = new QDoubleSpinBox(this);
    box->setObjectName(name);
    box->setAccessibleName(label);
    box->setDecimals(decimals);
    box->setRange(least, most);
    box->setSuffix(unit);
    box->setFont(figureFont(12));
    box->setKeyboardTracking(false); // what is half typed does not hold
    row(into, label, box, words);
    connect(box, &QDoubleSpinBox::valueChanged, this,
            [this, set](double v) { change([&](Choices& c) { set(c, v); }); });
    pulls_.push_back([box, get](const Choices& c) { box->setValue(get(c)); });
}

void PreferencesDialog::change(const std::function<void(Choices&)>& what)
{
    if (pulling_)
        return;
    Choices c = Choices::now();
    what(c);
    window_.choose(c);
    if (clash_)
        clash_->clear();
    restyle();
    fillKeys(); // the menus may have been made anew
}

void PreferencesDialog::pull()
{
    pulling_ = true;
    const Choices now = Choices::now();
    for (const auto& one : pulls_)
        one(now);
    pulling_ = false;
    fillKeys();
}
} // namespace hygros::app
