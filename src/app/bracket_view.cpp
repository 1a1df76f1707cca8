#include "app/bracket_view.h"

#include "app/theme.h"
#include "app/words.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

namespace hygros::app {
using elements::BracketBy;

BracketView::BracketView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("bracketView");
    setAccessibleName(say("Bracket"));
    setFocusPolicy(Qt::StrongFocus);
    setAttribute(Qt::WA_OpaquePaintEvent);
    const Theme& t = Theme::now();
    bar_ = new QWidget(this);
    bar_->setObjectName("bracketBar");
    bar_->setAttribute(Qt::WA_StyledBackground);
    bar_->setStyleSheet(QString("#bracketBar{background:%1}").arg(t.panel.name()));
    auto* rows = new QVBoxLayout(bar_);
    rows->setContentsMargins(12, 8, 12, 8);
    rows->setSpacing(6);
    over_ = makeRange("over", {});
    across_ = makeRange("across", say("one setting alone"));
    for (Range* r : {&over_, &across_}) {
        auto* row = new QHBoxLayout;
        row->setSpacing(8);
        auto* head = new QLabel(r == &over_ ? say("Step") : say("crossed with"), bar_);
        head->setFixedWidth(84);
        head->setStyleSheet("color:" + t.quiet.name());
        row->addWidget(head);
        row->addWidget(r->setting, 1);
        row->addWidget(r->by);
        row->addWidget(r->words[0]);
        row->addWidget(r->from);
        row->addWidget(r->words[1]);
        row->addWidget(r->to);
        row->addWidget(r->steps);
        rows->addLayout(row);
    }
    auto* last = new QHBoxLayout;
    last->setSpacing(8);
    state_ = new QLabel(bar_);
    state_->setObjectName("bracketState");
    state_->setFont(figureFont(11));
    state_->setStyleSheet("color:" + t.quiet.name());
    const auto button = [&](const QString& text, const char* name, const QString& tip) {
        auto* b = new QPushButton(text, bar_);
        b->setObjectName(name);
        b->setToolTip(tip);
        b->setAutoDefault(false);
        return b;
    };
    take_ = button(say("Take this"), "bracketTake",
                   say("Puts its value into the project; Undo takes that back (Enter)"));
    enlarge_ = button(say("Enlarge"), "bracketEnlarge", say("Draws it as large as fits (Space, or a double click)"));
    write_ = button(say("Write the sheet…"), "bracketWrite", say("All tiles with their values as one picture"));
    close_ = button(say("Back to the Picture"), "bracketClose", "Escape");
    last->addWidget(state_, 1);
    for (QPushButton* b : {take_, enlarge_, write_, close_})
        last->addWidget(b);
    rows->addLayout(last);
    connect(take_, &QPushButton::clicked, this, &BracketView::takeChosen);
    connect(enlarge_, &QPushButton::clicked, this, [this] {
        session_.bracket().enlarge(session_.bracket().enlarged() >= 0 ? -1 : chosen_);
        setFocus();
    });
    connect(write_, &QPushButton::clicked, this, &BracketView::writeSheet);
    connect(close_, &QPushButton::clicked, this, &BracketView::closed);
    connect(&session.bracket(), &Bracket::changed, this, &BracketView::tell);
}

BracketView::Range BracketView::makeRange(const QString& name, const QString& none)
{
    Range r{};
    const bool first = none.isEmpty();
    r.setting = new SettingBox(session_, none, bar_);
    r.setting->setObjectName(name + "Setting");
    r.setting->setAccessibleName(first ? say("Setting to step") : say("Setting to cross it with"));
    r.by = new QComboBox(bar_);
    r.by->setObjectName(name + "By");
    r.by->setAccessibleName(say("How the values lie"));
    r.by->setFixedWidth(112);
    const auto field = [&](const QString& which, const QString& says) {
        auto* e = new QLineEdit(bar_);
        e->setObjectName(name + which);
        e->setAccessibleName(says);
        e->setFixedWidth(84);
        e->setFont(figureFont(12));
        connect(e, &QLineEdit::editingFinished, this, [this, e] {
            if (e->isModified())
                begin();
            e->setModified(false);
        });
        return e;
    };
    r.from = field(say("From"), say("First value"));
    r.to = field(say("To"), say("Last value"));
    r.steps = new QSpinBox(bar_);
    r.steps->setObjectName(name + "Steps");
    r.steps->setAccessibleName(say("How many values"));
    r.steps->setRange(2, elements::bracketMost);
    r.steps->setSuffix(say(" steps"));
    r.steps->setFont(figureFont(12));
    r.steps->setFixedWidth(92);
    r.words = {new QLabel(say("from"), bar_), new QLabel(say("to"), bar_)};
    connect(r.setting, &QComboBox::currentIndexChanged, this, [this, first] {
        Range& own = first ? over_ : across_;
        beginRange(own, own.setting->path());
        begin();
    });
    connect(r.by, &QComboBox::activated, this, [this, first] {
        // Ends of another kind: those that suit it.
        Range& own = first ? over_ : across_;
        const auto by = static_cast<BracketBy>(own.by->currentData().toInt());
        const elements::BracketWish start = elements::bracketBegin(session_.project(), own.setting->path());
        if (by == BracketBy::Stops) {
            own.from->setText("-2");
            own.to->setText("2");
        } else if (own.from->text() == "-2" && own.to->text() == "2") {
            own.from->setText(QString::fromStdString(start.from));
            own.to->setText(QString::fromStdString(start.to));
        }
        showRange(own);
        begin();
    });
    connect(r.steps, &QSpinBox::valueChanged, this, &BracketView::begin);
    return r;
}

void BracketView::beginRange(Range& r, const std::string& path)
{
    const QSignalBlocker a(r.steps), b(r.setting), c(r.by);
    r.setting->setPath(path);
    r.by->clear();
    if (!path.empty()) {
        const elements::BracketWish start = elements::bracketBegin(session_.project(), path);
        for (const BracketBy way : elements::bracketWays(session_.project(), path)) {
            static const char* const names[] = {
                QT_TRANSLATE_NOOP("window", "evenly"), QT_TRANSLATE_NOOP("window", "by factors"),
                QT_TRANSLATE_NOOP("window", "by stops"), QT_TRANSLATE_NOOP("window", "by frames"),
                QT_TRANSLATE_NOOP("window", "all there are")};
            r.by->addItem(say(names[static_cast<int>(way)]), static_cast<int>(way));
        }
        r.from->setText(QString::fromStdString(start.from));
        r.to->setText(QString::fromStdString(start.to));
        r.steps->setValue(&r == &over_ ? start.count : std::min(4, start.count));
    }
    showRange(r);
}

void BracketView::showRange(Range& r)
{
    const bool set = !r.setting->path().empty();
    const auto by = static_cast<BracketBy>(r.by->currentData().toInt());
    r.by->setVisible(set);
    for (QWidget* w : std::initializer_list<QWidget*>{r.from, r.to, r.steps, r.words[0], r.words[1]})
        w->setVisible(set && by != BracketBy::Choices);
}

elements::BracketWish BracketView::wish(const Range& r) const
{
    return {r.setting->path(), static_cast<BracketBy>(r.by->currentData().toInt()), r.from->text().toStdString(),
            r.to->text().toStdString(), r.steps->value()};
}

void BracketView::open(const std::string& path)
{
    over_.setting->fill();
    across_.setting->fill();
    if (!path.empty() || over_.by->count() == 0) {
        std::string first = path;
        if (first.empty()) // what one most often wants to know
            for (const scene::Element& e : session_.project().elements)
                for (const scene::Parameter& p : e.kind->parameters)
                    if (first.empty() && e.kind->family == scene::Family::Air && p.isLead)
                        first = e.id + "." + p.id;
        beginRange(over_, first.empty() ? over_.setting->itemData(0).toString().toStdString() : first);
        beginRange(across_, {});
    }
    begin();
    setFocus();
}

void BracketView::begin()
{
    if (over_.setting->path().empty() || !isVisible())
        return;
    if (session_.bracket().begin(wish(over_), wish(across_), sheet().size()))
        choose(session_.bracket().present());
}

QRect BracketView::sheet() const { return rect().adjusted(12, bar_->height() + 10, -12, -6); }

QRect BracketView::tileAt(int index) const
{
    const Bracket& b = session_.bracket();
    if (index < 0 || index >= static_cast<int>(b.tiles().size()))
        return {};
    constexpr int gap = 8, label = 20;
    const QSize s = b.tileSize();
    const int columns = b.columns(), side = b.isCrossed() ? 90 : 0;
    const QRect all = sheet();
    const int wide = columns * (s.width() + gap) - gap + side,
              left = all.left() + std::max(0, (all.width() - wide) / 2) + side;
    const int column = index % columns, row = index / columns;
    return b.isCrossed()
               ? QRect(QPoint(left + column * (s.width() + gap), all.top() + label + row * (s.height() + gap)), s)
               : QRect(QPoint(left + column * (s.width() + gap), all.top() + row * (s.height() + gap + label)), s);
}

int BracketView::at(const QPoint& place) const
{
    for (int i = 0; i < static_cast<int>(session_.bracket().tiles().size()); ++i)
        if (tileAt(i).adjusted(0, 0, 0, 20).contains(place))
            return i;
    return -1;
}

void BracketView::choose(int tile)
{
    chosen_ = tile;
    if (session_.bracket().enlarged() >= 0 && tile >= 0)
        session_.bracket().enlarge(tile);
    tell();
}

void BracketView::tell()
{
    const Bracket& b = session_.bracket();
    if (chosen_ >= static_cast<int>(b.tiles().size()))
        chosen_ = -1;
    const bool one = chosen_ >= 0;
    take_->setEnabled(one && b.present() != chosen_);
    enlarge_->setEnabled(one);
    enlarge_->setText(b.enlarged() >= 0 ? say("All tiles") : say("Enlarge"));
    write_->setEnabled(b.isDone());
    int done = 0;
    for (const Bracket::Tile& t : b.tiles())
        done += t.isLast;
    QString text;
    if (!b.tiles().empty())
        text = b.isDone() ? say("%1 pictures · %2 samples").arg(b.tiles().size()).arg(b.samples())
                          : say("%1 pictures · %2 %").arg(b.tiles().size()).arg(std::lround(b.progress() * 100.0));
    if (one)
        text += say("   chosen: ") + b.tiles()[static_cast<std::size_t>(chosen_)].words +
                (b.present() == chosen_ ? say(", as it is now") : "");
    state_->setText(text);
    update();
}

void BracketView::takeChosen()
{
    if (chosen_ >= 0)
        session_.bracket().take(chosen_);
    setFocus();
}

void BracketView::writeSheet()
{
    const QString start = session_.document().file().isEmpty()
                              ? QString("bracket.png")
                              : QFileInfo(session_.document().file()).absolutePath() + "/" +
                                    QFileInfo(session_.document().file()).completeBaseName() + "-bracket.png";
    QString file = QFileDialog::getSaveFileName(this, say("Write the sheet"), start, say("Pictures (*.png)"));
    if (file.isEmpty())
        return;
    if (!file.endsWith(".png"))
        file += ".png";
    session_.bracket().write(file);
}

void BracketView::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.fillRect(rect(), QColor("#262728"));
    const Bracket& b = session_.bracket();
    const Theme& t = Theme::now();
    const QColor words("#dededb");
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    const auto picture = [&](const QRect& into, const QImage& image, const Bracket::Tile& tile) {
        if (!image.isNull())
            return p.drawImage(into, image);
        p.fillRect(into, QColor("#343536"));
        p.setPen(QColor("#a0a3a2"));
        p.setFont(textFont(12));
        p.drawText(into.adjusted(8, 8, -8, -8), Qt::AlignCenter | Qt::TextWordWrap,
                   tile.trouble.isEmpty() ? "…" : tile.trouble);
    };
    if (const int large = b.enlarged(); large >= 0) {
        const Bracket::Tile& tile = b.tiles()[static_cast<std::size_t>(large)];
        const QRect all = sheet();
        QRect into(QPoint(0, 0), b.tileSize().scaled(all.size() - QSize(0, 20), Qt::KeepAspectRatio));
        into.moveCenter(all.center() - QPoint(0, 10));
        picture(into, b.enlargedImage().isNull() ? tile.image : b.enlargedImage(), tile);
        p.setPen(words);
        p.setFont(figureFont(12));
        p.drawText(QRect(into.left(), into.bottom() + 2, into.width(), 18), Qt::AlignLeft | Qt::AlignVCenter,
                   tile.words);
        return;
    }
    const int present = b.present();
    for (int i = 0; i < static_cast<int>(b.tiles().size()); ++i) {
        const Bracket::Tile& tile = b.tiles()[static_cast<std::size_t>(i)];
        const QRect into = tileAt(i);
        picture(into, tile.image, tile);
        if (i == chosen_) {
            p.setPen(QPen(t.accent, 2));
            p.setBrush(Qt::NoBrush);
            p.drawRect(QRectF(into).adjusted(-2, -2, 2, 2));
        }
        p.setFont(figureFont(12));
        const auto label = [&](const QRect& at, const std::string& text, Qt::Alignment how) {
            p.setPen(words);
            p.drawText(at, how | Qt::AlignVCenter, QString::fromStdString(text));
        };
        if (!b.isCrossed()) {
            label(QRect(into.left(), into.bottom() + 1, into.width(), 19), b.over().shown[static_cast<std::size_t>(i)],
                  Qt::AlignLeft);
        } else {
            if (i < b.columns())
                label(QRect(into.left(), into.top() - 20, into.width(), 18),
                      b.over().shown[static_cast<std::size_t>(i)], Qt::AlignLeft);
            if (i % b.columns() == 0)
                label(QRect(into.left() - 96, into.top(), 88, into.height()),
                      b.across().shown[static_cast<std::size_t>(i / b.columns())], Qt::AlignRight);
        }
        if (i == present) { // what the project has now
            p.setFont(textFont(11));
            const QRect tag(into.right() - 39, into.top() + 4, 36, 17);
            p.fillRect(tag, QColor(20, 21, 22, 200));
            p.setPen(words);
            p.drawText(tag, Qt::AlignCenter, say("now"));
        }
    }
    if (hasFocus() && chosen_ < 0) {
        p.setPen(QPen(t.accent, 1));
        p.drawRect(sheet().adjusted(-4, -4, 4, 4));
    }
}

void BracketView::resizeEvent(QResizeEvent*)
{
    bar_->setGeometry(0, 0, width(), bar_->sizeHint().height());
    session_.bracket().setArea(sheet().size());
}

void BracketView::mousePressEvent(QMouseEvent* e)
{
    setFocus();
    if (session_.bracket().enlarged() < 0)
        if (const int tile = at(e->pos()); tile >= 0)
            choose(tile);
}

void BracketView::mouseDoubleClickEvent(QMouseEvent* e)
{
    const bool large = session_.bracket().enlarged() >= 0;
    if (const int tile = large ? -1 : at(e->pos()); large || tile >= 0)
        session_.bracket().enlarge(tile);
}

void BracketView::keyPressEvent(QKeyEvent* e)
{
    Bracket& b = session_.bracket();
    const int count = static_cast<int>(b.tiles().size());
    const auto step = [&](int by) {
        if (count > 0)
            choose(chosen_ < 0 ? 0 : std::clamp(chosen_ + by, 0, count - 1));
    };
    switch (e->key()) {
    case Qt::Key_Left: return step(-1);
    case Qt::Key_Right: return step(1);
    case Qt::Key_Up: return step(chosen_ >= b.columns() ? -b.columns() : 0);
    case Qt::Key_Down: return step(chosen_ + b.columns() < count ? b.columns() : 0);
    case Qt::Key_Return:
    case Qt::Key_Enter: return takeChosen();
    case Qt::Key_Space: return b.enlarge(b.enlarged() >= 0 ? -1 : chosen_);
    case Qt::Key_Escape:
        if (b.enlarged() >= 0)
            return b.enlarge(-1);
        return Q_EMIT closed();
    default: QWidget::keyPressEvent(e);
    }
}
} // namespace hygros::app
