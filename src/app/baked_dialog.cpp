#include "app/baked_dialog.h"

#include "app/choices.h"

#include "app/editors.h"
#include "app/session.h"
#include "app/theme.h"
#include "app/words.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace hygros::app {

BakedDialog::BakedDialog(Session& session, QWidget* parent)
    : QDialog(parent), session_(session), foot_(new QLabel(this))
{
    setObjectName("bakedFrames");
    setWindowTitle(say("Baked frames"));
    resize(560, 240);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(18, 16, 18, 14);
    column->setSpacing(12);
    foot_->setWordWrap(true);
    foot_->setObjectName("folder");
    foot_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    foot_->setStyleSheet(QString("color:%1").arg(Theme::now().quiet.name()));
    column->addStretch(1);
    column->addWidget(foot_);
    auto* row = new QHBoxLayout;
    auto* all = new QPushButton(say("Purge all"), this);
    all->setObjectName("purgeAll");
    auto* close = new QPushButton(say("Close"), this);
    for (QPushButton* b : {all, close})
        b->setStyleSheet(plainButton());
    row->addWidget(all);
    row->addStretch(1);
    row->addWidget(close);
    column->addLayout(row);
    connect(all, &QPushButton::clicked, this, [this] { session_.baker().purge({}); });
    connect(close, &QPushButton::clicked, this, &QDialog::close);
    connect(&session.baker(), &Baker::changed, this, &BakedDialog::fill);
    fill();
}

void BakedDialog::fill()
{
    delete list_;
    list_ = new QWidget(this);
    auto* table = new QGridLayout(list_);
    table->setContentsMargins(0, 0, 0, 0);
    table->setHorizontalSpacing(16);
    const auto put = [&](int row, int column, const QString& text, bool figures) {
        auto* label = new QLabel(text, list_);
        label->setFont(figures ? figureFont(12) : textFont(12));
        table->addWidget(label, row, column, column == 1 || column == 2 ? Qt::AlignRight : Qt::AlignLeft);
        return label;
    };
    const Baker& baker = session_.baker();
    auto contents = baker.contents();
    for (const auto& [id, span] : baker.spans()) // also what has no frame yet
        if (std::none_of(contents.begin(), contents.end(), [&](const auto& c) { return c.element == id; }))
            contents.push_back({id, {}, 0});
    std::uintmax_t bytes = 0;
    int row = 0;
    for (const FrameStore::Contents& c : contents) {
        bytes += c.bytes;
        const scene::Element* e = session_.project().find(c.element);
        const auto span = baker.spans().find(c.element);
        put(row, 0, QString::fromStdString(e ? e->name : c.element), false);
        put(row, 1, say("%1 frames").arg(c.frames.size()), true);
        put(row, 2, say("%1 MB").arg(figure(double(c.bytes) * 1e-6, 2)), true);
        QString state = say("not in this project any more");
        if (span != baker.spans().end()) {
            using State = FrameStore::State;
            const int stale = span->second.count(State::Stale) + span->second.count(State::Damaged);
            state = say("%1 fresh").arg(span->second.count(State::Fresh));
            if (stale > 0)
                state += say(", %1 stale").arg(stale);
            if (const int missing = span->second.count(State::Missing); missing > 0)
                state += say(", %1 missing").arg(missing);
            if (baker.isBaking(c.element))
                state = baker.said(c.element);
        }
        put(row, 3, state, false)
            ->setToolTip(span == baker.spans().end() ? QString() : QString::fromStdString(span->second.why));
        auto* purge = new QPushButton(say("Purge"), list_);
        purge->setObjectName("purge-" + QString::fromStdString(c.element));
        purge->setStyleSheet(plainButton());
        purge->setEnabled(c.bytes > 0);
        connect(
            purge, &QPushButton::clicked, this, [this, id = c.element] { session_.baker().purge(id); },
            Qt::QueuedConnection);
        table->addWidget(purge, row, 4);
        ++row;
    }
    table->setColumnStretch(3, 1);
    if (row == 0)
        put(0, 0, say("Nothing is baked. Add a Wind and Tracers, then Bake on the Tracers' card."), false);
    static_cast<QVBoxLayout*>(layout())->insertWidget(0, list_);
    foot_->setText(say("%1 MB of at most %2 GB, in %3")
                       .arg(figure(double(bytes) * 1e-6, 2))
                       .arg(figure(Choices::now().bakedGb, 1))
                       .arg(baker.folder()));
}
} // namespace hygros::app
