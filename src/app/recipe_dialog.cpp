#include "app/recipe_dialog.h"

#include "app/theme.h"
#include "app/words.h"

#include <QCheckBox>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace hygros::app {

RecipeDialog::RecipeDialog(Session& session, QWidget* parent)
    : QDialog(parent), session_(session), elements_(session.selection().chosen())
{
    setWindowTitle(say("Save as recipe"));
    setObjectName("recipeDialog");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 14, 16, 14);
    column->setSpacing(8);
    const auto caption = [&](const QString& text) {
        auto* label = new QLabel(text, this);
        label->setStyleSheet("color:" + Theme::now().quiet.name());
        column->addWidget(label);
    };
    constexpr QSize size(320, 180);
    picture_ = session.picture().state().image.scaled(size, Qt::KeepAspectRatioByExpanding, Qt::SmoothTransformation);
    picture_ = picture_.copy((picture_.width() - size.width()) / 2, (picture_.height() - size.height()) / 2,
                             size.width(), size.height());
    auto* shown = new QLabel(this);
    shown->setPixmap(QPixmap::fromImage(picture_));
    shown->setFixedSize(size);
    column->addWidget(shown);
    QStringList names;
    for (const std::string& id : elements_)
        if (const scene::Element* e = session.project().find(id))
            names << QString::fromStdString(e->name);
    auto* what = new QLabel(names.join(" · "), this);
    what->setWordWrap(true);
    what->setFixedWidth(size.width());
    column->addWidget(what);
    caption(say("Name"));
    name_ = new QLineEdit(this);
    name_->setObjectName("recipeName");
    name_->setText(names.size() == 1 ? names.front() : QString());
    column->addWidget(name_);
    caption(say("Words: what it is good for"));
    words_ = new QPlainTextEdit(this);
    words_->setObjectName("recipeWords");
    words_->setFixedHeight(64);
    words_->setTabChangesFocus(true);
    column->addWidget(words_);
    stands_ = new QCheckBox(say("Stands before the camera wherever it is taken"), this);
    stands_->setToolTip(say("Places are kept as they lie before the camera now; off, they are those of the world."));
    const bool placed = !session.arranger().placesOf(elements_).empty();
    stands_->setVisible(placed);
    stands_->setChecked(placed);
    column->addWidget(stands_);
    auto* note = new QLabel(say("Everything in metres stays in metres."), this);
    note->setStyleSheet("color:" + Theme::now().quiet.name());
    column->addWidget(note);
    auto* buttons = new QHBoxLayout;
    auto* stop = new QPushButton(say("Close"), this);
    save_ = new QPushButton(say("Save recipe"), this);
    save_->setObjectName("saveRecipe");
    save_->setDefault(true);
    buttons->addStretch(1);
    buttons->addWidget(stop);
    buttons->addWidget(save_);
    column->addLayout(buttons);
    const auto ready = [this] { save_->setEnabled(!name_->text().trimmed().isEmpty() && !elements_.empty()); };
    ready();
    connect(name_, &QLineEdit::textChanged, this, ready);
    connect(stop, &QPushButton::clicked, this, &QDialog::reject);
    connect(save_, &QPushButton::clicked, this, &RecipeDialog::save);
    layout()->setSizeConstraint(QLayout::SetFixedSize);
}

void RecipeDialog::save()
{
    if (session_.library().save(elements_, name_->text().trimmed(), words_->toPlainText().trimmed(), picture_,
                                stands_->isVisible() && stands_->isChecked())) {
        Q_EMIT saved();
        accept();
    }
}
} // namespace hygros::app
