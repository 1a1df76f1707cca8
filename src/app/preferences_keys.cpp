/// The page of keys.
#include "app/main_window.h"
#include "app/preferences_dialog.h"
#include "app/theme.h"
#include "app/words.h"

#include <QAction>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeySequenceEdit>
#include <QLabel>
#include <QLineEdit>
#include <QMenuBar>
#include <QPushButton>
#include <QTreeWidget>

namespace hygros::app {

void PreferencesDialog::makeKeys(QVBoxLayout* into)
{
    auto* find = new QLineEdit(this);
    find->setObjectName("findKeys");
    find->setAccessibleName(say("Find a command"));
    find->setPlaceholderText(say("find a command"));
    into->addWidget(find);
    keys_ = new QTreeWidget(this);
    keys_->setObjectName("keys");
    keys_->setAccessibleName(say("Commands and their keys"));
    keys_->setRootIsDecorated(false);
    keys_->setHeaderLabels({say("Command"), say("Keyboard")});
    keys_->setFrameShape(QFrame::NoFrame);
    keys_->header()->setStretchLastSection(false);
    keys_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    keys_->header()->setSectionResizeMode(1, QHeaderView::Fixed);
    keys_->header()->resizeSection(1, 150);
    into->addWidget(keys_, 1);
    auto* line = new QHBoxLayout;
    auto* edit = new QKeySequenceEdit(this);
    edit->setObjectName("newKeys");
    edit->setAccessibleName(say("New keys"));
    edit->setEnabled(false);
    auto* none = new QPushButton(say("No keys"), this);
    none->setObjectName("noKeys");
    auto* back = new QPushButton(say("As delivered"), this);
    back->setObjectName("deliveredKeys");
    for (QPushButton* b : {none, back}) {
        b->setAutoDefault(false);
        b->setEnabled(false);
    }
    line->addWidget(new QLabel(say("New keys"), this));
    line->addWidget(edit, 1);
    line->addWidget(none);
    line->addWidget(back);
    into->addLayout(line);
    const auto chosen = [this] {
        const auto* item = keys_->currentItem();
        return item ? item->data(0, Qt::UserRole).toString() : QString();
    };
    const auto give = [this, chosen](const QKeySequence& keys) {
        const QString id = chosen();
        const auto all = commandsOf(*window_.menuBar());
        if (id.isEmpty())
            return;
        const Command* other = clashOf(all, id, keys);
        const QString said = other ? say("“%1” had these keys and has none now.").arg(other->path) : QString();
        setKeys(all, id, keys);
        fillKeys();
        clash_->setText(said);
    };
    connect(keys_, &QTreeWidget::currentItemChanged, this, [this, edit, none, back, chosen] {
        const bool some = !chosen().isEmpty();
        for (QWidget* w : std::initializer_list<QWidget*>{edit, none, back})
            w->setEnabled(some);
        for (const Command& c : commandsOf(*window_.menuBar()))
            if (c.id == chosen())
                edit->setKeySequence(c.action->shortcut());
    });
    connect(edit, &QKeySequenceEdit::editingFinished, this, [edit, give] { give(edit->keySequence()); });
    connect(none, &QPushButton::clicked, this, [edit, give] {
        edit->clear();
        give({});
    });
    connect(back, &QPushButton::clicked, this, [this, give, chosen, edit] {
        for (const Command& c : commandsOf(*window_.menuBar()))
            if (c.id == chosen()) {
                edit->setKeySequence(c.delivered);
                return give(c.delivered);
            }
    });
    connect(find, &QLineEdit::textChanged, this, [this](const QString& text) {
        for (int i = 0; i < keys_->topLevelItemCount(); ++i) {
            auto* item = keys_->topLevelItem(i);
            item->setHidden(!item->text(0).contains(text, Qt::CaseInsensitive) &&
                            !item->text(1).contains(text, Qt::CaseInsensitive));
        }
    });
}

void PreferencesDialog::fillKeys()
{
    const auto* current = keys_->currentItem();
    const QString was = current ? current->data(0, Qt::UserRole).toString() : QString();
    const QSignalBlocker quiet(keys_);
    keys_->clear();
    for (const Command& c : commandsOf(*window_.menuBar())) {
        auto* item = new QTreeWidgetItem(keys_, {c.path, c.action->shortcut().toString(QKeySequence::NativeText)});
        item->setData(0, Qt::UserRole, c.id);
        item->setFont(1, figureFont(11));
        if (c.action->shortcut() != c.delivered)
            item->setFont(0, textFont(12, QFont::DemiBold)); // one's own
        if (c.id == was)
            keys_->setCurrentItem(item);
    }
}
} // namespace hygros::app
