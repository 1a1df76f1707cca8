#include "app/words.h"
#include "base/shown_units.h"

#include "base/words.h"

#include <QCoreApplication>
#include <QFile>
#include <QHash>
#include <QLibraryInfo>
#include <QLocale>
#include <QThread>
#include <QTranslator>

namespace hygros::app {
namespace {
bool largeNouns = false;

/// By what is shown. Menus and pages are made by the window's thread alone, which asks for them.
QHash<QString, QString>& sources()
{
    static QHash<QString, QString> all;
    return all;
}
} // namespace

QString say(const char* english)
{
    QString shown = QCoreApplication::translate("window", english);
    if (QCoreApplication::instance() && QThread::currentThread() == QCoreApplication::instance()->thread())
        if (const QString source = QString::fromUtf8(english); source != shown)
            sources().insert(shown, source);
    return shown;
}

std::string said(const char* english) { return say(english).toStdString(); }

QString nameOf(const std::string& english) { return QCoreApplication::translate("core", english.c_str()); }

QString inText(const std::string& label)
{
    const QString shown = QString::fromStdString(label);
    return largeNouns ? shown : shown.toLower();
}

QString figure(double value, int decimals)
{
    QString text = QString::number(value, 'f', decimals);
    return shownUnits().comma ? text.replace('.', ',') : text;
}

QString figures(double value, int digits) { return QString::fromStdString(shownNumber(value, digits)); }

QString troubleOf(const std::exception& bad) { return QString::fromStdString(sentence(bad.what())); }

QString englishOf(const QString& shown) { return sources().value(shown, shown); }

QStringList languages() { return {"en", "de"}; }

QString languageName(const QString& code) { return code == "de" ? QString("Deutsch") : QString("English"); }

void speak(const QString& code)
{
    const QString wanted = code.isEmpty() ? QLocale::system().name().section('_', 0, 0) : code;
    if (wanted == "en" || !languages().contains(wanted))
        return;
    auto* own = new QTranslator(QCoreApplication::instance());
    if (!own->load(":/hygros/translations/hygros_" + wanted + ".qm"))
        return;
    QCoreApplication::installTranslator(own);
    largeNouns = wanted == "de";
    // Qt's own words: those of its file and colour dialogs.
    auto* qt = new QTranslator(QCoreApplication::instance());
    if (qt->load("qtbase_" + wanted, QLibraryInfo::path(QLibraryInfo::TranslationsPath)))
        QCoreApplication::installTranslator(qt);
    setWords(
        [](const std::string& english) { return QCoreApplication::translate("core", english.c_str()).toStdString(); });
    std::vector<std::pair<std::string, std::string>> errors;
    if (QFile list(":/hygros/errors.txt"); list.open(QIODevice::ReadOnly))
        for (QByteArray line : list.readAll().split('\n'))
            if (!line.isEmpty())
                errors.emplace_back(line.toStdString(),
                                    QCoreApplication::translate("errors", line.constData()).toStdString());
    setSentences(std::move(errors));
}
} // namespace hygros::app
