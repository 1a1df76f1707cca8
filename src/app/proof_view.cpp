#include "app/proof_view.h"

#include "app/theme.h"
#include "app/words.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace hygros::app {

ProofView::ProofView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("proofView");
    const Theme& t = Theme::now();
    setStyleSheet(QString("QPushButton{background:transparent;border:1px solid %1;color:%2;padding:3px 10px}"
                          "QPushButton:hover,QPushButton:focus{border-color:%3}QScrollArea,#proofRows{border:none;"
                          "background:transparent}")
                      .arg(t.rule.name(), t.text.name(), t.accent.name()));
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(16, 6, 16, 8);
    empty_ = new QLabel(say("Keep a proof with F5; click it at the left, and what differs now stands here."), this);
    empty_->setObjectName("proofEmpty");
    empty_->setAlignment(Qt::AlignCenter);
    empty_->setStyleSheet("color:" + t.quiet.name());
    outer->addWidget(empty_, 1);
    whole_ = new QWidget(this);
    outer->addWidget(whole_, 1);
    auto* row = new QHBoxLayout(whole_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(20);
    auto* left = new QVBoxLayout;
    left->setSpacing(6);
    note_ = new QLineEdit(whole_);
    note_->setObjectName("proofNote");
    note_->setAccessibleName(say("Note of the proof"));
    note_->setFixedWidth(230);
    note_->setFont(textFont(13, QFont::DemiBold));
    about_ = new QLabel(whole_);
    about_->setObjectName("proofAbout");
    about_->setFont(figureFont(11));
    about_->setStyleSheet("color:" + t.quiet.name());
    back_ = new QPushButton(say("Go back to it"), whole_);
    back_->setObjectName("proofBack");
    back_->setToolTip(say("Its state in place of the present one; Undo takes that back"));
    forget_ = new QPushButton(say("Forget it"), whole_);
    forget_->setObjectName("proofForget");
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(8);
    buttons->addWidget(back_);
    buttons->addWidget(forget_);
    buttons->addStretch(1);
    left->addWidget(note_);
    left->addWidget(about_);
    left->addLayout(buttons);
    left->addStretch(1);
    row->addLayout(left);
    auto* right = new QVBoxLayout;
    right->setSpacing(4);
    count_ = new QLabel(whole_);
    count_->setObjectName("proofCount");
    count_->setFont(textFont(12, QFont::DemiBold));
    auto* scroll = new QScrollArea(whole_);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setWidgetResizable(true);
    list_ = new QWidget(scroll);
    list_->setObjectName("proofRows");
    column_ = new QVBoxLayout(list_);
    column_->setContentsMargins(0, 0, 6, 0);
    column_->setSpacing(2);
    scroll->setWidget(list_);
    right->addWidget(count_);
    right->addWidget(scroll, 1);
    row->addLayout(right, 1);
    connect(note_, &QLineEdit::editingFinished, this,
            [this] { session_.proofs().rename(session_.compare().proof(), note_->text()); });
    connect(back_, &QPushButton::clicked, this, [this] { session_.proofs().goBack(session_.compare().proof()); });
    connect(forget_, &QPushButton::clicked, this, [this] { session_.proofs().forget(session_.compare().proof()); });
    timer_.setSingleShot(true);
    timer_.setInterval(120);
    connect(&timer_, &QTimer::timeout, this, &ProofView::fill);
    connect(&session.compare(), &Compare::changed, this, [this, was = Proofs::One()]() mutable {
        if (std::exchange(was, session_.compare().proof()) != session_.compare().proof())
            show();
    });
    connect(&session.document(), &Document::projectChanged, this, [this] {
        if (session_.compare().proof() && !timer_.isActive())
            timer_.start();
    });
    show();
}

void ProofView::show()
{
    const Proofs::One proof = session_.compare().proof();
    empty_->setVisible(!proof);
    whole_->setVisible(bool(proof));
    if (!proof)
        return;
    note_->setText(QString::fromStdString(proof->note));
    about_->setText(Proofs::words(proof));
    fill();
}

void ProofView::fill()
{
    while (QLayoutItem* item = column_->takeAt(0)) {
        if (item->widget())
            item->widget()->deleteLater();
        delete item;
    }
    const Proofs::One proof = session_.compare().proof();
    if (!proof)
        return;
    const auto all = session_.proofs().differences(proof);
    count_->setText(all.empty()       ? say("Nothing differs from it now.")
                    : all.size() == 1 ? say("One thing differs now:")
                                      : say("%1 things differ now:").arg(all.size()));
    back_->setEnabled(!all.empty());
    std::string before;
    for (const scene::Difference& d : all) {
        auto* line = new QWidget(list_);
        auto* row = new QHBoxLayout(line);
        row->setContentsMargins(0, 0, 0, 0);
        auto* text = new QLabel(QString::fromStdString(d.text), line);
        text->setTextFormat(Qt::PlainText);
        text->setWordWrap(true);
        row->addWidget(text, 1);
        const bool isNew = !d.element.empty() && d.element != before;
        before = d.element;
        if (isNew) {
            auto* take = new QPushButton(say("As it was"), line);
            take->setObjectName("take:" + QString::fromStdString(d.element));
            take->setToolTip(say("All of this element as it was in the proof; the others stay"));
            take->setStyleSheet("QPushButton{padding:0 8px}");
            row->addWidget(take);
            connect(take, &QPushButton::clicked, this,
                    [this, id = d.element] { session_.proofs().takeElement(session_.compare().proof(), id); });
        }
        column_->addWidget(line);
    }
    column_->addStretch(1);
}
} // namespace hygros::app
