#include "app/guide.h"

#include "app/theme.h"
#include "app/words.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace hygros::app {

Guide::Guide(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("guide");
    setAccessibleName(say("Guided first fog"));
    setAttribute(Qt::WA_StyledBackground);
    const Theme& t = Theme::now();
    setStyleSheet(QString("#guide{background:%1;border-left:3px solid %2}"
                          "QPushButton{background:transparent;border:1px solid %3;color:%4;padding:4px 12px}"
                          "QPushButton:hover,QPushButton:focus{border-color:%2}")
                      .arg(t.raised.name(), t.accent.name(), t.rule.name(), t.text.name()));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(14, 9, 10, 9);
    row->setSpacing(12);
    number_ = new QLabel(this);
    number_->setFont(figureFont(12));
    number_->setStyleSheet("color:" + t.quiet.name());
    text_ = new QLabel(this);
    text_->setObjectName("guideText");
    text_->setWordWrap(true);
    text_->setFont(textFont(13));
    next_ = new QPushButton(say("Go on"), this);
    next_->setObjectName("guideNext");
    end_ = new QPushButton(say("Leave it"), this);
    end_->setObjectName("guideEnd");
    row->addWidget(number_, 0, Qt::AlignTop);
    row->addWidget(text_, 1);
    row->addWidget(next_);
    row->addWidget(end_);
    const auto value = [this](const char* which) {
        const scene::Element* e = fog();
        return e ? std::get<double>(e->value(which)) : 0.0;
    };
    steps_ = {
        {say("This morning has no air yet: everything is as crisp far away as near. At the right press + add, and "
             "choose "
             "Fog bank."),
         [this] { return fog() != nullptr; }},
        {say("It lies on the ground now. How thick it is, is how far one sees in it: drag the ruler under visibility "
             "on "
             "its "
             "card to the left, until the far trees go."),
         [this, value] { return visibility_ > 0.0 && value("visibility") < 0.8 * visibility_; }},
        {say("Below is the Transect: the air from the side, distance across and height up. Drag the upper ring of the "
             "bank "
             "until its top stands lower than the lamp, or set top on the card."),
         [this, value] { return value("top") != top_; }},
        {say("Click on a tree in the Picture: the Sounding tells how much of its light comes through and what the air "
             "adds "
             "before it."),
         [this] { return session_.readings().pins().size() > pins_; }},
        {say("Keep what you have with F5. From now on every change can be held against it, and you can come back."),
         [this] { return session_.proofs().all().size() > proofs_; }},
        {say("That was it: thickness, height, measure, keep. Everything else is found with Ctrl+K."), {}}};
    connect(next_, &QPushButton::clicked, this, [this] { show(step_ + 1); });
    connect(end_, &QPushButton::clicked, this, &Guide::ended);
    connect(&session.document(), &Document::projectChanged, this, &Guide::look);
    connect(&session.document(), &Document::proofsChanged, this, &Guide::look);
    connect(&session.readings(), &Readings::readingsChanged, this, &Guide::look);
    show(0);
}

const scene::Element* Guide::fog() const
{
    // The newest of them: also where there was one before.
    const auto& all = session_.project().elements;
    for (auto e = all.rbegin(); e != all.rend(); ++e)
        if (scene::findParameter(e->kind->parameters, "visibility") && scene::findParameter(e->kind->parameters, "top"))
            return &*e;
    return nullptr;
}

QString Guide::words() const { return text_->text(); }

void Guide::look()
{
    if (step_ < count() && steps_[static_cast<std::size_t>(step_)].isDone &&
        steps_[static_cast<std::size_t>(step_)].isDone())
        show(step_ + 1);
}

void Guide::show(int step)
{
    if (step >= count())
        return Q_EMIT ended();
    step_ = step;
    pins_ = session_.readings().pins().size();
    proofs_ = session_.proofs().all().size();
    if (const scene::Element* e = fog()) {
        top_ = std::get<double>(e->value("top"));
        visibility_ = std::get<double>(e->value("visibility"));
    }
    const bool last = step_ + 1 == count();
    number_->setText(QString("%1/%2").arg(step_ + 1).arg(count()));
    text_->setText(steps_[static_cast<std::size_t>(step_)].words);
    next_->setText(last ? say("Done") : say("Skip this"));
    end_->setVisible(!last);
}

} // namespace hygros::app
