#include "app/add_place.h"

#include "app/edged_label.h"
#include "app/editors.h"
#include "app/theme.h"
#include "app/words.h"

#include <QGridLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace hygros::app {
namespace {
QScrollArea* scrolled(QWidget* inner, QWidget* parent)
{
    auto* area = new QScrollArea(parent);
    area->setFrameShape(QFrame::NoFrame);
    area->setWidgetResizable(true);
    area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    area->setFocusPolicy(Qt::NoFocus);
    area->setWidget(inner);
    return area;
}
/// Whether all words that were typed are in a text.
bool holds(const QString& text, const QString& typed)
{
    const QStringList words = typed.split(' ', Qt::SkipEmptyParts);
    return std::all_of(words.begin(), words.end(),
                       [&](const QString& w) { return text.contains(w, Qt::CaseInsensitive); });
}
} // namespace

AddPlace::AddPlace(Session& session, std::function<void(const std::string&)> add, QWidget* parent)
    : QDialog(parent), session_(session), add_(std::move(add)), find_(new QLineEdit(this)), none_(new QLabel(this)),
      pictures_(std::make_unique<RecipePictures>(session))
{
    const Theme& t = Theme::now();
    setObjectName("addPlace");
    setWindowTitle(say("Add"));
    resize(884, 600);
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(16, 14, 10, 10);
    whole->setSpacing(10);
    find_->setObjectName("findAddition");
    find_->setAccessibleName(say("What to add"));
    find_->setPlaceholderText(say("search: mist, lamp, dusk …"));
    find_->setClearButtonEnabled(true);
    find_->setFont(textFont(13));
    find_->setStyleSheet(
        QString("QLineEdit{border:1px solid %1;background:%2;color:%3;padding:5px 8px}QLineEdit:focus{border-color:%4}")
            .arg(t.rule.name(), t.field.name(), t.text.name(), t.accent.name()));
    whole->addWidget(find_);
    auto* row = new QHBoxLayout;
    row->setSpacing(16);
    auto* left = new QWidget(this);
    left->setFixedWidth(236);
    auto* kinds = new QVBoxLayout(left);
    kinds->setContentsMargins(0, 0, 8, 0);
    kinds->setSpacing(2);
    fillKinds(kinds);
    kinds->addStretch(1);
    auto* leftArea = scrolled(left, this);
    leftArea->setFixedWidth(246);
    row->addWidget(leftArea);
    auto* right = new QWidget(this);
    auto* column = new QVBoxLayout(right);
    column->setContentsMargins(0, 0, 8, 0);
    auto* head = new QLabel(say("Recipes, as they would look here"), right);
    head->setFont(textFont(12, QFont::DemiBold));
    column->addWidget(head);
    grid_ = new QGridLayout;
    grid_->setSpacing(8);
    column->addLayout(grid_);
    column->addStretch(1);
    fillRecipes();
    row->addWidget(scrolled(right, this), 1);
    whole->addLayout(row, 1);
    none_->setText(say("Nothing of that name. Try another word."));
    none_->setStyleSheet(QString("color:%1").arg(t.quiet.name()));
    none_->hide();
    whole->addWidget(none_);
    connect(find_, &QLineEdit::textChanged, this, &AddPlace::search);
    connect(find_, &QLineEdit::returnPressed, this, &AddPlace::takeFirst);
    find_->setFocus();
}

AddPlace::~AddPlace() { session_.library().preview(nullptr); }

QLabel* AddPlace::headOf(const QString& name, const QColor& hue)
{
    auto* head = new EdgedLabel(name, this);
    head->setFont(textFont(12, QFont::DemiBold));
    head->setContentsMargins(10, 6, 0, 0); // as far in as the kinds under it
    head->setHue(hue);
    return head;
}

void AddPlace::fillKinds(QVBoxLayout* column)
{
    const Theme& t = Theme::now();
    for (const scene::Family family : Library::families()) {
        QLabel* head = nullptr;
        for (const elements::Kind& k : elements::kinds()) {
            const auto& all = session_.project().elements;
            if (k.family != family || k.permanent ||
                (k.single && std::any_of(all.begin(), all.end(), [&](const auto& e) { return e.kind->id == k.id; })))
                continue;
            if (!head)
                column->addWidget(head = headOf(nameOf(scene::familyName(family)), familyHue(family)));
            auto* button = new QPushButton(QString::fromStdString(k.label), this);
            button->setObjectName("kind:" + QString::fromStdString(k.id));
            button->setToolTip(QString::fromStdString(k.help));
            button->setFont(textFont(12));
            button->setAutoDefault(false);
            button->setStyleSheet(
                QString("QPushButton{border:0;background:transparent;color:%1;text-align:left;padding:"
                        "4px 10px}QPushButton:hover,QPushButton:focus{background:%2;color:%3}")
                    .arg(t.text.name(), t.raised.name(), t.accent.name()));
            connect(button, &QPushButton::clicked, this, [this, id = k.id] {
                close();
                add_(id);
            });
            column->addWidget(button);
            kinds_.push_back(
                {button, QString::fromStdString(k.label + " " + k.help + " " + scene::familyName(family)), head});
        }
    }
}

void AddPlace::fillRecipes()
{
    const Theme& t = Theme::now();
    std::vector<scene::Recipe> all = session_.library().recipes();
    QLabel* head = nullptr;
    const auto isUnder = [](const scene::Recipe& r, const scene::Recipe& under) {
        return Library::isOwn(under) ? Library::isOwn(r)
                                     : !Library::isOwn(r) && Library::familyOf(r) == Library::familyOf(under);
    };
    for (const scene::Recipe& r : all) {
        if (recipes_.empty() || !isUnder(r, recipes_.back().recipe))
            head = Library::isOwn(r)
                       ? headOf(say("Your own"), t.quiet)
                       : headOf(nameOf(scene::familyName(Library::familyOf(r))), familyHue(Library::familyOf(r)));
        const QString name = nameOf(r.name), help = nameOf(r.help);
        auto* button = new QToolButton(this);
        button->setObjectName("recipe:" + QString::fromStdString(r.name));
        button->setText(name);
        button->setToolTip(help);
        button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        button->setIconSize({RecipePictures::width, RecipePictures::height});
        button->setFixedSize(RecipePictures::width + 12, RecipePictures::height + 34);
        button->setFont(textFont(12));
        button->setStyleSheet(
            QString("QToolButton{border:1px solid transparent;background:transparent;color:%1;padding:4px}"
                    "QToolButton:hover,QToolButton:focus{border-color:%2;color:%2}")
                .arg(t.text.name(), t.accent.name()));
        // Until it is drawn here, what came with it.
        QImage image = QImage::fromData(QByteArray::fromBase64(QByteArray::fromStdString(r.picture)));
        if (image.isNull()) {
            image = QImage(RecipePictures::width, RecipePictures::height, QImage::Format_RGB32);
            image.fill(t.field);
        }
        button->setIcon(QPixmap::fromImage(image.scaled(RecipePictures::width, RecipePictures::height,
                                                        Qt::KeepAspectRatioByExpanding, Qt::SmoothTransformation)));
        button->installEventFilter(this);
        connect(button, &QToolButton::clicked, this, [this, r] {
            session_.library().preview(nullptr);
            close();
            session_.take(r);
        });
        recipes_.push_back({button, name + " " + help + " " + head->text(), r, head});
    }
    connect(pictures_.get(), &RecipePictures::drawn, this, [this](int number, const QImage& image) {
        recipes_[static_cast<std::size_t>(number)].button->setIcon(QPixmap::fromImage(image));
    });
    search({});
    pictures_->want(all);
}

void AddPlace::search(const QString& text)
{
    std::vector<QLabel*> heads;
    bool some = false;
    for (const KindEntry& k : kinds_) {
        const bool shown = holds(k.words, text);
        k.button->setVisible(shown);
        some = some || shown;
        if (shown)
            heads.push_back(k.head);
    }
    for (const KindEntry& k : kinds_)
        k.head->setVisible(std::find(heads.begin(), heads.end(), k.head) != heads.end());
    for (const RecipeEntry& r : recipes_) {
        grid_->removeWidget(r.button);
        grid_->removeWidget(r.head);
        r.head->hide();
    }
    constexpr int across = 3;
    int row = -1, column = 0;
    for (const RecipeEntry& r : recipes_) {
        const bool shown = holds(r.words, text);
        r.button->setVisible(shown);
        some = some || shown;
        if (!shown)
            continue;
        if (r.head->isHidden()) {
            grid_->addWidget(r.head, ++row, 0, 1, across);
            r.head->show();
            column = across;
        }
        if (column == across) {
            ++row;
            column = 0;
        }
        grid_->addWidget(r.button, row, column++, Qt::AlignLeft | Qt::AlignTop);
    }
    none_->setVisible(!some);
}

void AddPlace::takeFirst()
{
    for (const KindEntry& k : kinds_)
        if (!k.button->isHidden() && k.button->text().contains(find_->text(), Qt::CaseInsensitive))
            return k.button->click();
    for (const RecipeEntry& r : recipes_)
        if (!r.button->isHidden())
            return r.button->click();
    for (const KindEntry& k : kinds_)
        if (!k.button->isHidden())
            return k.button->click();
}

bool AddPlace::eventFilter(QObject* watched, QEvent* event)
{
    // Resting on a recipe shows it in the Picture.
    if (event->type() == QEvent::Enter || event->type() == QEvent::Leave)
        for (const RecipeEntry& r : recipes_)
            if (r.button == watched)
                session_.library().preview(event->type() == QEvent::Enter ? &r.recipe : nullptr);
    return QDialog::eventFilter(watched, event);
}
} // namespace hygros::app
