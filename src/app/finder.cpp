#include "app/finder.h"

#include "app/bench.h"
#include "app/main_window.h"
#include "app/theme.h"
#include "app/words.h"

#include <QAction>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenuBar>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <algorithm>

namespace hygros::app {
namespace {
constexpr int mostShown = 60;

/// How well words fit a text: 0 not at all; more where they begin words of it.
int fit(const QString& text, const QStringList& words)
{
    int sum = 1;
    for (const QString& w : words) {
        const auto at = text.indexOf(w, 0, Qt::CaseInsensitive);
        if (at < 0)
            return 0;
        sum += at == 0 ? 6 : text[at - 1].isLetterOrNumber() ? 1 : 4;
        if (at + w.size() == text.size() || !text[at + w.size()].isLetterOrNumber())
            sum += 2; // a whole word
    }
    return sum;
}

/// A line with its words at the left and what belongs to it, fainter, at the right.
class Line : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override
    {
        const Theme& t = Theme::now();
        const QRect r = option.rect;
        if (option.state & QStyle::State_Selected) {
            p->fillRect(r, t.raised);
            p->fillRect(QRect(r.left(), r.top(), 3, r.height()), t.accent);
        }
        const QString beside = index.data(Qt::UserRole).toString();
        p->setFont(figureFont(11));
        const int wide = p->fontMetrics().horizontalAdvance(beside);
        p->setPen(t.quiet);
        p->drawText(r.adjusted(0, 0, -12, 0), Qt::AlignRight | Qt::AlignVCenter, beside);
        p->setFont(textFont(13));
        p->setPen(t.text);
        const int room = r.width() - wide - 44;
        p->drawText(r.adjusted(14, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter,
                    p->fontMetrics().elidedText(index.data().toString(), Qt::ElideRight, room));
    }
    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {200, 27}; }
};
} // namespace

Finder::Finder(MainWindow& window) : QDialog(&window), window_(window)
{
    setObjectName("finder");
    setWindowTitle(say("Find anything"));
    resize(620, 420);
    const Theme& t = Theme::now();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 14, 14, 12);
    column->setSpacing(8);
    line_ = new QLineEdit(this);
    line_->setObjectName("finderLine");
    line_->setAccessibleName(say("What to find"));
    line_->setPlaceholderText(say("a command, a setting, a setting and its value: visibility 300 m"));
    line_->setFont(textFont(14));
    line_->setStyleSheet(
        QString("QLineEdit{border:1px solid %1;background:%2;color:%3;padding:6px 9px}QLineEdit:focus{border-color:%4}")
            .arg(t.rule.name(), t.field.name(), t.text.name(), t.accent.name()));
    list_ = new QListWidget(this);
    list_->setObjectName("finderList");
    list_->setAccessibleName(say("What was found"));
    list_->setItemDelegate(new Line(list_));
    list_->setFrameShape(QFrame::NoFrame);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setStyleSheet("QListWidget{background:transparent}");
    none_ = new QLabel(say("Nothing of that name. Try fewer letters."), this);
    none_->setStyleSheet("color:" + t.quiet.name());
    none_->hide();
    column->addWidget(line_);
    column->addWidget(list_, 1);
    column->addWidget(none_);
    line_->installEventFilter(this);
    connect(line_, &QLineEdit::textChanged, this, &Finder::search);
    connect(line_, &QLineEdit::returnPressed, this, [this] { take(list_->currentRow()); });
    connect(list_, &QListWidget::itemClicked, this, [this] { take(list_->currentRow()); });
    gather();
    search();
    line_->setFocus();
}

void Finder::gather()
{
    Session& session = window_.session();
    for (const Command& c : commandsOf(*window_.menuBar()))
        if (c.action->isEnabled())
            all_.push_back({c.path,
                            c.action->shortcut().toString(QKeySequence::NativeText),
                            {},
                            [a = c.action] { a->trigger(); },
                            0});
    for (const QString& page : window_.bench().pages())
        all_.push_back(
            {say("Bench ▸ ") + say(page.toUtf8()), {}, page, [this, page] { window_.bench().showPage(page); }, 1});
    for (const scene::Element& e : session.project().elements) {
        const QString name = QString::fromStdString(e.name);
        const QString family = nameOf(scene::familyName(e.kind->family));
        all_.push_back({name, family, say("card ") + QString::fromStdString(e.kind->label),
                        [this, id = e.id] { window_.unfold(id); }, 1});
        if (!elements::kindOf(e).staysWhenSilent)
            for (const auto& [flag, on, off] :
                 {std::tuple(&scene::Element::muted, QT_TRANSLATE_NOOP("window", "Mute "),
                             QT_TRANSLATE_NOOP("window", "Unmute ")),
                  std::tuple(&scene::Element::soloed, QT_TRANSLATE_NOOP("window", "Solo "),
                             QT_TRANSLATE_NOOP("window", "Unsolo "))})
                all_.push_back({say(e.*flag ? off : on) + name,
                                {},
                                {},
                                [&session, id = e.id, flag = flag, value = !(e.*flag)] {
                                    session.arranger().setFlag({id}, flag, value);
                                },
                                3});
        for (const scene::Parameter& p : e.kind->parameters) {
            if (!scene::applies(e.kind->parameters, p, *e.settings))
                continue;
            const QString text = name + ": " + QString::fromStdString(p.label);
            settings_.push_back({e.id, p.id, text});
            all_.push_back({text, QString::fromStdString(p.shown(e.value(p.id))),
                            QString::fromStdString(p.help + " " + p.group),
                            [this, id = e.id, parameter = p.id] { window_.showSetting(id, parameter); }, 2});
        }
    }
}

void Finder::offerValues(const QString& typed)
{
    const QStringList words = typed.split(' ', Qt::SkipEmptyParts);
    const scene::Project& project = window_.session().project();
    // The longest beginning that names something, the rest being its value.
    for (auto named = words.size() - 1; named >= 1; --named) {
        const QStringList name = words.mid(0, named);
        const std::string value = words.mid(named).join(' ').toStdString();
        std::vector<std::pair<int, Entry>> good;
        for (const Setting& s : settings_) {
            const int how = fit(s.text, name);
            if (how == 0)
                continue;
            const scene::Element* e = project.find(s.element);
            const scene::Parameter* p = e ? scene::findParameter(e->kind->parameters, s.parameter) : nullptr;
            if (!p || p->type == scene::ValueType::Text || p->type == scene::ValueType::File)
                continue;
            try {
                const scene::Value v = p->parsed(value);
                good.push_back({how,
                                {say("Set %1 to %2").arg(s.text, QString::fromStdString(p->shown(v))),
                                 say("now ") + QString::fromStdString(p->shown(e->value(p->id))),
                                 {},
                                 [this, s, v] { window_.session().document().setValue(s.element, s.parameter, v); },
                                 0}});
            } catch (const std::exception&) {
                // Not of this one.
            }
        }
        if (good.empty())
            continue;
        std::stable_sort(good.begin(), good.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
        for (auto& [how, entry] : good)
            if (found_.size() < 12)
                found_.push_back(std::move(entry));
        return;
    }
}

void Finder::search()
{
    const QString typed = line_->text().trimmed();
    const QStringList words = typed.split(' ', Qt::SkipEmptyParts);
    found_.clear();
    offerValues(typed);
    std::vector<std::pair<int, const Entry*>> good;
    for (const Entry& e : all_) {
        int how = 3 * fit(e.text, words);
        if (how == 0)
            how = fit(e.text + " " + e.words, words);
        if (how > 0)
            good.emplace_back(how * 4 - e.rank, &e);
    }
    std::stable_sort(good.begin(), good.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    for (const auto& [how, entry] : good)
        if (found_.size() < mostShown)
            found_.push_back(*entry);
    list_->clear();
    for (const Entry& e : found_) {
        auto* item = new QListWidgetItem(e.text, list_);
        item->setData(Qt::UserRole, e.beside);
        item->setData(Qt::AccessibleTextRole, e.text + ", " + e.beside);
    }
    list_->setCurrentRow(0);
    none_->setVisible(found_.empty());
}

bool Finder::eventFilter(QObject* watched, QEvent* event)
{
    if (watched == line_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key(), by = key == Qt::Key_Down       ? 1
                                                                    : key == Qt::Key_Up       ? -1
                                                                    : key == Qt::Key_PageDown ? 10
                                                                    : key == Qt::Key_PageUp   ? -10
                                                                                              : 0;
        if (by != 0 && list_->count() > 0) {
            list_->setCurrentRow(std::clamp(list_->currentRow() + by, 0, list_->count() - 1));
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
}

void Finder::take(int row)
{
    if (row < 0 || row >= static_cast<int>(found_.size()))
        return;
    const auto act = found_[static_cast<std::size_t>(row)].act;
    hide();
    act();
    close();
}
} // namespace hygros::app
