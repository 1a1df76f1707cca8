#include "app/help_dialog.h"

#include "app/card.h"
#include "app/theme.h"
#include "app/words.h"

#include <QFile>
#include <QHBoxLayout>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QLineEdit>
#include <QTextBrowser>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace hygros::app {
namespace {
constexpr int stripWidth = 484; ///< of three pictures

QString html(const std::string& text) { return QString::fromStdString(text).toHtmlEscaped(); }

QString ofKind(const elements::Kind& k)
{
    QString out = say("<h3>%1</h3><p>%2</p><p>Its settings:</p><ul>").arg(html(k.label), html(k.help));
    for (const scene::Parameter& p : k.parameters)
        out += QString("<li><b>%1</b>: %2</li>").arg(html(p.label), html(p.help));
    return out + "</ul>";
}

/// Low, medium and high on its ruler, in a demo; nothing where no picture shows what it does.
QString pictures(const elements::Kind& k, const scene::Parameter& p)
{
    static const QJsonObject all = [] {
        QFile file(":/hygros/help/values.json");
        return file.open(QIODevice::ReadOnly) ? QJsonDocument::fromJson(file.readAll()).object() : QJsonObject();
    }();
    const QString name = QString::fromStdString(k.id + "." + p.id);
    const QJsonArray values = all.value(name).toArray();
    if (values.isEmpty())
        return {};
    QString out = QString("<p><img src=':/hygros/help/%1.jpg'></p><table width='%2'><tr>").arg(name).arg(stripWidth);
    for (const QJsonValue& v : values) {
        const scene::Value value = p.type == scene::ValueType::Whole
                                       ? scene::Value(static_cast<std::int64_t>(v.toDouble()))
                                       : scene::Value(v.toDouble());
        out += QString("<td width='33%' align='center'>%1</td>").arg(html(p.shown(value)));
    }
    return out + "</tr></table>";
}

QString ofSetting(const elements::Kind& k, const scene::Parameter& p)
{
    using Type = scene::ValueType;
    QString out = QString("<h3>%1</h3><p style='color:%4'>%2%3</p><p>%5</p>%6<table cellpadding='3'>")
                      .arg(html(p.label), html(k.label), p.group.empty() ? QString() : " · " + html(p.group),
                           Theme::now().quiet.name(), html(p.help), pictures(k, p));
    const auto row = [&](const QString& name, const QString& value) {
        if (!value.isEmpty())
            out += QString("<tr><td>%1&nbsp;&nbsp;</td><td>%2</td></tr>").arg(name, value);
    };
    row(say("begins as"), html(p.shown(p.fallback)));
    row(say("may be"), html(p.rangeShown()));
    if (p.type == Type::Number || p.type == Type::Point) {
        QStringList units;
        for (const std::string& u : unitsOf(p.quantity))
            units << html(u);
        row(say("typed in"), units.join(", "));
    }
    row(say("over time"), p.keyable ? say("can have keys and stirs") : say("stays the same"));
    row(say("in files and commands"), "<code>" + html(k.id + "." + p.id) + "</code>");
    return out + "</table>";
}
} // namespace

HelpDialog::HelpDialog(QWidget* parent) : QDialog(parent)
{
    setObjectName("help");
    setWindowTitle(say("What settings do"));
    resize(860, 560);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(14, 14, 14, 14);
    row->setSpacing(14);
    auto* left = new QVBoxLayout;
    find_ = new QLineEdit(this);
    find_->setObjectName("helpFind");
    find_->setAccessibleName(say("Find a setting"));
    find_->setPlaceholderText(say("find a setting"));
    list_ = new QTreeWidget(this);
    list_->setObjectName("helpList");
    list_->setAccessibleName(say("Kinds of elements and their settings"));
    list_->setHeaderHidden(true);
    list_->setFrameShape(QFrame::NoFrame);
    left->addWidget(find_);
    left->addWidget(list_, 1);
    row->addLayout(left, 3);
    text_ = new QTextBrowser(this);
    text_->setObjectName("helpText");
    text_->setAccessibleName(say("What it does"));
    text_->setFrameShape(QFrame::NoFrame);
    text_->setFont(textFont(13));
    row->addWidget(text_, 6);
    fill();
    connect(find_, &QLineEdit::textChanged, this, &HelpDialog::search);
    connect(list_, &QTreeWidget::currentItemChanged, this, &HelpDialog::tell);
    list_->setCurrentItem(list_->topLevelItem(0));
}

void HelpDialog::fill()
{
    using F = scene::Family;
    for (const F family : {F::Air, F::Fire, F::Weather, F::Water, F::Lights, F::Set, F::Finish})
        for (const elements::Kind& k : elements::kinds()) {
            if (k.family != family)
                continue;
            auto* kind = new QTreeWidgetItem(list_, {QString::fromStdString(k.label)});
            kind->setData(0, Qt::UserRole, QString::fromStdString(k.id));
            kind->setFont(0, textFont(12, QFont::DemiBold));
            for (const scene::Parameter& p : k.parameters) {
                auto* item = new QTreeWidgetItem(kind, {QString::fromStdString(p.label)});
                item->setData(0, Qt::UserRole, QString::fromStdString(k.id));
                item->setData(0, Qt::UserRole + 1, QString::fromStdString(p.id));
                item->setData(0, Qt::UserRole + 2, QString::fromStdString(p.help));
            }
        }
}

void HelpDialog::search(const QString& text)
{
    const auto holds = [&](const QTreeWidgetItem* item) {
        return item->text(0).contains(text, Qt::CaseInsensitive) ||
               item->data(0, Qt::UserRole + 2).toString().contains(text, Qt::CaseInsensitive);
    };
    for (int i = 0; i < list_->topLevelItemCount(); ++i) {
        QTreeWidgetItem* kind = list_->topLevelItem(i);
        const bool all = holds(kind);
        bool any = all;
        for (int k = 0; k < kind->childCount(); ++k) {
            const bool shown = all || holds(kind->child(k));
            kind->child(k)->setHidden(!shown);
            any |= shown;
        }
        kind->setHidden(!any);
        kind->setExpanded(any && !text.isEmpty());
    }
}

void HelpDialog::tell()
{
    const QTreeWidgetItem* item = list_->currentItem();
    const auto* kind = item ? elements::findKind(item->data(0, Qt::UserRole).toString().toStdString()) : nullptr;
    if (!kind)
        return;
    const elements::Kind& k = static_cast<const elements::Kind&>(*kind);
    const auto* p = scene::findParameter(k.parameters, item->data(0, Qt::UserRole + 1).toString().toStdString());
    text_->setHtml(p ? ofSetting(k, *p) : ofKind(k));
}

void HelpDialog::showSetting(const std::string& kind, const std::string& parameter)
{
    find_->clear();
    for (int i = 0; i < list_->topLevelItemCount(); ++i) {
        QTreeWidgetItem* item = list_->topLevelItem(i);
        if (item->data(0, Qt::UserRole).toString().toStdString() != kind)
            continue;
        QTreeWidgetItem* wanted = item;
        for (int c = 0; c < item->childCount(); ++c)
            if (item->child(c)->data(0, Qt::UserRole + 1).toString().toStdString() == parameter)
                wanted = item->child(c);
        item->setExpanded(true);
        list_->setCurrentItem(wanted);
        list_->scrollToItem(wanted);
    }
}

bool HelpDialog::showFor(QWidget* focused)
{
    std::string parameter;
    for (QWidget* w = focused; w; w = w->parentWidget()) {
        if (const QVariant id = w->property("parameter"); id.isValid() && parameter.empty())
            parameter = id.toString().toStdString();
        if (const auto* card = qobject_cast<Card*>(w)) {
            showSetting(card->now().kind->id, parameter);
            return true;
        }
    }
    return false;
}

QString HelpDialog::words() const { return text_->toPlainText(); }
} // namespace hygros::app
