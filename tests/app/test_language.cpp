/// The window in another language: what it says, that everything fits where it stands, and what must stay the same in
/// all of them (files, ids of commands, values).
#include "app/add_place.h"
#include "app/bench.h"
#include "app/card.h"
#include "app/card_column.h"
#include "app/commands.h"
#include "app/export_dialog.h"
#include "app/finder.h"
#include "app/first_page.h"
#include "app/preferences_dialog.h"
#include "app/words.h"
#include "window_support.h"

#include <QAbstractScrollArea>
#include <QComboBox>
#include <QFile>
#include <QLabel>
#include <QTemporaryDir>

using namespace hygros;
using namespace hygros::app;

class TestLanguage : public QObject {
    Q_OBJECT
    std::unique_ptr<MainWindow> window_;
    Session& session() { return window_->session(); }

    /// Words that are wider than where they stand.
    static QStringList cut(QWidget* part)
    {
        QStringList out;
        const auto wide = [](const QWidget* w, const QString& text) {
            int most = 0;
            for (const QString& line : text.split('\n'))
                most = std::max(most, QFontMetrics(w->font()).horizontalAdvance(line));
            return most;
        };
        for (QWidget* w : part->findChildren<QWidget*>()) {
            if (!w->isVisible() || w->visibleRegion().isEmpty())
                continue;
            QString text;
            int room = w->width();
            if (const auto* b = qobject_cast<QAbstractButton*>(w)) {
                text = b->text().remove('&');
            } else if (const auto* l = qobject_cast<QLabel*>(w); l && l->textFormat() != Qt::RichText) {
                if (l->wordWrap()) { // its longest word, and all lines of it
                    const QStringList words = l->text().split(QRegularExpression("\\s+"));
                    for (const QString& word : words)
                        if (wide(l, word) > wide(l, text))
                            text = word;
                    if (l->heightForWidth(l->width()) > l->height() + 2)
                        out << QString("“%1” has %2 of %3 pixels of height")
                                   .arg(l->text().left(40))
                                   .arg(l->height())
                                   .arg(l->heightForWidth(l->width()));
                } else if (!l->text().contains('<')) {
                    text = l->text();
                }
            } else {
                continue;
            }
            if (wide(w, text) > room + 1)
                out << QString("“%1” (%2) has %3 of %4 pixels").arg(text, w->objectName()).arg(room).arg(wide(w, text));
        }
        return out;
    }
    static void fits(QWidget* part, const QString& where)
    {
        QTest::qWait(60);
        // (What is found out on the way lengthens notes, and they are laid out in the next turn of the loop.)
        QStringList bad = cut(part);
        for (int i = 0; i < 20 && !bad.isEmpty(); ++i) {
            QTest::qWait(50);
            bad = cut(part);
        }
        QVERIFY2(bad.isEmpty(), qPrintable(where + ": " + bad.mid(0, 10).join("; ")));
    }

private Q_SLOTS:
    void initTestCase()
    {
        test::prepareApplication();
        QSettings().clear();
        QSettings().setValue("followPaths", false);
        speak("de");
    }
    void init()
    {
        window_ = std::make_unique<MainWindow>();
        window_->resize(1280, 800);
        session().picture().setWantedSamples(1);
        session().picture().setFineness(4); // what is written is looked at, not the picture
        window_->show();
        session().newProject();
        for (const char* kind : {"haze", "fogBank", "bulb", "rain", "wind"})
            session().add(*elements::findKind(kind));
        QVERIFY(test::settle(session()));
    }
    void cleanup() { window_.reset(); }

    void recipesSpeakItWithWhatTheyBring()
    {
        window_->chooseFamily(scene::Family::Water);
        auto* recipes = window_->findChild<QPushButton*>("recipes");
        QVERIFY(recipes && recipes->isVisible() && recipes->menu());
        QAction* pond = nullptr;
        for (QAction* a : recipes->menu()->actions())
            pond = a->text() == "Stiller Teich" ? a : pond;
        QVERIFY(pond);
        QVERIFY2(pond->toolTip().contains("das Wasser spiegelt"), qPrintable(pond->toolTip()));
        pond->trigger();
        // Ids are the same in all languages.
        QVERIFY(session().project().find("pond"));
        QCOMPARE(QString::fromStdString(session().project().find("pond")->name), QString("Teich"));
        QCOMPARE(QString::fromStdString(session().document().history().undoName()), QString("Rezept: Stiller Teich"));
    }

    void menusCardsAndNotesSpeakIt()
    {
        QStringList menus;
        for (const QAction* a : window_->menuBar()->actions())
            menus << a->text();
        QCOMPARE(menus.front(), QString("Projekt"));
        QCOMPARE(menus.back(), QString("Hilfe"));
        QVERIFY(session().project().find("haze")); // ids are the same in all languages
        QCOMPARE(QString::fromStdString(session().project().find("haze")->name), QString("Dunst"));
        window_->chooseFamily(scene::Family::Air);
        window_->unfold("fog-bank");
        QTest::qWait(80);
        QStringList labels;
        for (const QLabel* l : window_->findChild<CardColumn*>()->findChildren<QLabel*>())
            labels << l->text();
        QVERIFY2(labels.contains("Form"), qPrintable(labels.join(", ")));
        auto* layer = window_->findChild<QPushButton*>("form=layer");
        QVERIFY(layer && layer->text() == "Schicht");
        // A choice is set by its id, whatever it is called.
        auto* box = window_->findChild<QPushButton*>("form=box");
        QVERIFY(box && box->text() == "Quader");
        QTest::mouseClick(box, Qt::LeftButton);
        QCOMPARE(std::get<std::string>(session().project().find("fog-bank")->value("form")), std::string("box"));
        // What a choice brings along is there, as in every language.
        QTest::qWait(80);
        QVERIFY(window_->findChild<QWidget*>("size"));
        const scene::Element& bank = *session().project().find("fog-bank");
        int applying = 0;
        for (const scene::Parameter& p : bank.kind->parameters)
            applying += scene::applies(bank.kind->parameters, p, *bank.settings);
        QVERIFY2(applying > 20, qPrintable(QString::number(applying)));
        QVERIFY(scene::applies(bank.kind->parameters, *scene::findParameter(bank.kind->parameters, "size"),
                               *bank.settings));
        QVERIFY(!scene::applies(bank.kind->parameters, *scene::findParameter(bank.kind->parameters, "top"),
                                *bank.settings));
        // What is undone is told in it too.
        QVERIFY(session().document().history().canUndo());
        // Checks.
        session().document().setValue("bulb", "power", 0.0);
        QStringList told;
        const auto says = [&](const QString& what) {
            told.clear();
            for (const auto& f : session().checks().all())
                told << QString::fromStdString(f.text);
            return !told.filter(what).isEmpty();
        };
        for (int i = 0; i < 400 && !says("Sie gibt kein Licht: ihre Leistung ist 0."); ++i)
            QTest::qWait(50);
        QVERIFY2(says("Sie gibt kein Licht: ihre Leistung ist 0."), qPrintable(told.join("; ")));
    }
    void filesAndCommandsStayAsTheyAre()
    {
        QTemporaryDir folder;
        const QString file = folder.filePath("deutsch.hygros");
        session().document().setValue("fog-bank", "form", std::string("sphere"));
        QVERIFY(session().document().save(file));
        QFile saved(file);
        QVERIFY(saved.open(QIODevice::ReadOnly));
        const QByteArray text = saved.readAll();
        QVERIFY(text.contains("\"fog-bank\"") && text.contains("\"form\": \"sphere\""));
        QVERIFY(text.contains("\"Nebelbank\"")); // the name that it was given
        const scene::Project read = scene::loadProject(file.toStdString(), elements::findKind);
        QCOMPARE(scene::toJson(read), scene::toJson(session().project()));
        QStringList ids;
        for (const Command& c : commandsOf(*window_->menuBar()))
            ids << c.id;
        for (const char* id :
             {"Project/Save", "View/Aids over the picture", "Edit/Undo", "View/Size that is drawn/Half size"})
            QVERIFY2(ids.contains(id), id);
        QCOMPARE(window_->bench().pages().front(), QString("Transect"));
        window_->bench().showPage("Planes");
        QCOMPARE(window_->bench().shownPage(), QString("Planes"));
        QCOMPARE(window_->findChild<QPushButton*>("page:Planes")->text(), QString("Bildgründe"));
    }
    void everythingFitsWhereItStands()
    {
        using F = scene::Family;
        for (const F family : {F::Air, F::Fire, F::Weather, F::Water, F::Lights, F::Set, F::Finish}) {
            window_->chooseFamily(family);
            std::vector<std::string> all;
            for (const scene::Element& e : session().project().elements)
                if (e.kind->family == family)
                    all.push_back(e.id);
            for (const std::string& id : all) {
                window_->unfold(id);
                fits(window_.get(), QString::fromStdString(id));
            }
        }
        // A note that becomes known or longer while its card is open.
        window_->chooseFamily(F::Weather);
        window_->unfold("rain");
        for (const double rate : {0.0, 8.0, 60.0}) {
            session().document().setValue("rain", "rate", rate);
            const auto told = [&] {
                QString all;
                for (const QString& note : session().picture().notes("rain"))
                    all += note + " ";
                return all;
            };
            QVERIFY(test::settle(session()));
            QTRY_VERIFY2(told().contains("Tropfen") == (rate > 0.0), qPrintable(told()));
            fits(window_.get(), QString("rain of %1").arg(rate));
        }
        session().proofs().keep();
        for (const QString& page : window_->bench().pages()) {
            window_->bench().showPage(page);
            fits(window_.get(), page);
        }
        PreferencesDialog preferences(*window_);
        preferences.show();
        for (int page = 0; page < 4; ++page) {
            preferences.showPage(page);
            fits(&preferences, QString("preferences %1").arg(page));
        }
        preferences.hide();
        ExportDialog exporting(session(), window_.get());
        exporting.show();
        fits(&exporting, "export");
        exporting.hide();
        AddPlace adding(
            session(), [](const std::string&) {}, window_.get());
        adding.show();
        fits(&adding, "add");
        adding.hide();
        window_->showFirstPage();
        fits(window_.get(), "first page");
        window_->showPicture();
        session().bracket().setSamples(1);
        window_->showBracket("haze.visibility");
        fits(window_.get(), "bracket");
    }
    void commasStandInEveryNumberOrInNone()
    {
        PreferencesDialog preferences(*window_);
        preferences.show();
        auto* decimal = preferences.findChild<QComboBox*>("decimal");
        QVERIFY(decimal);
        const auto numbersWith = [&](const char* pattern) {
            const QRegularExpression sign(pattern);
            QStringList out;
            for (const QWidget* w : window_->findChildren<QWidget*>()) {
                const auto* label = qobject_cast<const QLabel*>(w);
                const auto* button = qobject_cast<const QAbstractButton*>(w);
                const auto* field = qobject_cast<const QLineEdit*>(w);
                const QString text = label    ? label->text()
                                     : button ? button->text()
                                     : field  ? field->text()
                                              : QString();
                if (w->isVisible() && text.contains(sign))
                    out << text;
            }
            for (const scene::Element& e : session().project().elements)
                for (const QString& note : session().picture().notes(e.id))
                    if (note.contains(sign))
                        out << note;
            return out;
        };
        const auto chosen = [&](int which) {
            decimal->setCurrentIndex(which);
            session().picture().setWantedSamples(1); // what is preferred counts anew
            session().document().setValue("haze", "visibility", 1750.0 + 100.0 * which);
            QVERIFY(test::settle(session()));
            QTest::qWait(100);
        };
        chosen(2);
        QCOMPARE(figure(2.26, 1), QString("2,3"));
        QCOMPARE(figures(0.0125), QString("0,0125"));
        QVERIFY(!numbersWith("[0-9],[0-9]").isEmpty());
        QVERIFY2(numbersWith("[0-9]\\.[0-9]").isEmpty(), qPrintable(numbersWith("[0-9]\\.[0-9]").join("; ")));
        chosen(1);
        QCOMPARE(figure(2.26, 1), QString("2.3"));
        QVERIFY(!numbersWith("[0-9]\\.[0-9]").isEmpty());
        QVERIFY2(numbersWith("[0-9],[0-9]").isEmpty(), qPrintable(numbersWith("[0-9],[0-9]").join("; ")));
        decimal->setCurrentIndex(0);
    }
    void noCardIsWiderThanItsColumn()
    {
        // Each kind's card, open, through all of its choices: what stands in it must not ask for more than there is.
        QStringList wide;
        for (const elements::Kind& kind : elements::kinds()) {
            session().newProject();
            std::string id;
            for (const scene::Element& e : session().project().elements)
                if (e.kind == &kind)
                    id = e.id;
            if (id.empty()) {
                session().add(kind);
                id = session().project().elements.back().id;
            }
            window_->chooseFamily(kind.family);
            const auto check = [&](const QString& when) {
                Card* card = window_->column().reveal(id);
                QVERIFY(card);
                card->setOpen(true);
                QTest::qWait(1);
                const QWidget* list = card->parentWidget();
                if (const int room = list->parentWidget()->width(); list->width() > room) {
                    QString what;
                    for (const QWidget* part : card->findChildren<QWidget*>())
                        if (part->isVisible() && part->minimumSizeHint().width() > room - 30 &&
                            part->findChildren<QWidget*>().size() < 9)
                            what += " " + part->objectName() + part->property("parameter").toString();
                    wide << QString("%1 %2: %3 of %4 pixels (%5)")
                                .arg(QString::fromStdString(kind.id), when)
                                .arg(list->width())
                                .arg(room)
                                .arg(what.trimmed());
                }
            };
            check("as it is");
            for (const scene::Parameter& p : kind.parameters) {
                if (p.type == scene::ValueType::Choice)
                    for (const std::string& choice : p.choices) {
                        session().document().setValue(id, p.id, choice);
                        check(QString::fromStdString(p.id + "=" + choice));
                    }
                if (p.type == scene::ValueType::File) {
                    session().document().setValue(
                        id, p.id, std::string("an evening at the lock with a name that goes on and on 0017.cube"));
                    check(QString::fromStdString(p.id + " with a file"));
                }
            }
        }
        QVERIFY2(wide.isEmpty(), qPrintable(wide.join("; ")));
    }
    void whatIsAmissIsSaidInIt()
    {
        // One of each kind, as they are when they are added, in a project without a set: most miss something.
        for (const elements::Kind& kind : elements::kinds())
            if (session().project().elements.size() < 200 && kind.id != "stage")
                session().add(kind);
        session().document().setValue("rain", "rate", 0.0);
        QVERIFY(test::settle(session()));
        QStringList all, english;
        for (const scene::Element& e : session().project().elements)
            for (const QString& note : session().picture().notes(e.id))
                all << note;
        for (const QString& note : all)
            if (note.contains(QRegularExpression("\\b(the|is|are|no|nothing|of|there|it)\\b")))
                english << note;
        QVERIFY2(english.isEmpty(), qPrintable(english.join(" | ")));
        QVERIFY2(all.size() > 10, qPrintable(all.join(" | ")));
        QVERIFY2(all.contains("0 mm in der Stunde: es fällt nichts."), qPrintable(all.join(" | ")));
    }
    void whatIsRefusedIsSaidInIt()
    {
        QStringList told;
        connect(&session(), &Session::failed, this, [&](const QString& what) { told << what; });
        const QTemporaryDir folder;
        const auto opened = [&](const char* name, const QByteArray& bytes) {
            QFile file(folder.filePath(name));
            QVERIFY(file.open(QIODevice::WriteOnly));
            file.write(bytes);
            file.close();
            told.clear();
            session().open(file.fileName());
            QTRY_COMPARE(told.size(), 1);
        };
        opened("torn.hygros", "{\"version\": 1,\n\"elements\": [");
        QVERIFY2(told[0].contains("Beim Öffnen von '") && told[0].contains("es ist nahe Zeile 2 beschädigt") &&
                     told[0].endsWith("Nichts wurde ersetzt."),
                 qPrintable(told[0]));
        opened("newer.hygros", "{\"hygros\": \"project\", \"version\": 99}");
        QVERIFY2(told[0].contains("mit einem neueren Hygros gesichert (Formatversion 99;") ||
                     told[0].contains("es ist kein Hygros-Projekt"),
                 qPrintable(told[0]));
        // An element's own trouble stands in the sentence about it.
        told.clear();
        session().document().setValue("haze", "visibility", -4.0);
        QTRY_COMPARE(told.size(), 1);
        QVERIFY2(told[0].contains("Sichtweite muss in ") && told[0].endsWith("Nichts wurde geändert."),
                 qPrintable(told[0]));
    }
    void theLanguageIsChosenInPreferences()
    {
        window_->showPreferences();
        auto* dialog = window_->findChild<PreferencesDialog*>();
        auto* box = dialog->findChild<QComboBox*>("language");
        QVERIFY(box);
        QCOMPARE(box->count(), languages().size() + 1);
        QCOMPARE(box->itemText(2), QString("Deutsch"));
        box->setCurrentIndex(2);
        QCOMPARE(Choices::now().language, QString("de"));
        box->setCurrentIndex(0);
        QCOMPARE(Choices::now().language, QString());
    }
};
QTEST_MAIN(TestLanguage)
#include "test_language.moc"
