/// That everything can be read and reached: each control of each page has a name and a role, comes in the order of Tab,
/// and its words stand out from what is behind them by 4.5 to 1, measured from the pixels, dark and light.
#include "app/add_place.h"
#include "app/bench.h"
#include "app/bracket_view.h"
#include "app/card.h"
#include "app/card_column.h"
#include "app/commands.h"
#include "app/export_dialog.h"
#include "app/finder.h"
#include "app/first_page.h"
#include "app/main_window.h"
#include "app/picture_view.h"
#include "app/preferences_dialog.h"
#include "window_support.h"

#include <QAbstractButton>
#include <QAbstractScrollArea>
#include <QAbstractSpinBox>
#include <QAccessible>
#include <QComboBox>
#include <QKeySequenceEdit>
#include <QLabel>
#include <QLineEdit>
#include <QMenuBar>
#include <QSettings>

using namespace hygros;
using namespace hygros::app;

namespace {
double lightOf(QRgb c)
{
    const auto linear = [](int v) {
        const double s = v / 255.0;
        return s <= 0.04045 ? s / 12.92 : std::pow((s + 0.055) / 1.055, 2.4);
    };
    return 0.2126 * linear(qRed(c)) + 0.7152 * linear(qGreen(c)) + 0.0722 * linear(qBlue(c));
}
/// WCAG 2: (L1 + 0.05) / (L2 + 0.05).
double contrast(double a, double b) { return (std::max(a, b) + 0.05) / (std::min(a, b) + 0.05); }

QString nameOf(const QWidget* w) { return QString("%1 “%2”").arg(w->metaObject()->className(), w->objectName()); }
} // namespace

class TestAccess : public QObject {
    Q_OBJECT
    std::unique_ptr<MainWindow> window_;

    Session& session() { return window_->session(); }
    static QString accessibleName(QWidget* w)
    {
        QAccessibleInterface* face = QAccessible::queryAccessibleInterface(w);
        return face ? face->text(QAccessible::Name) : QString();
    }
    /// What is wrong with the names of what can be reached in a part of the window.
    static QStringList nameless(QWidget* part)
    {
        QStringList out;
        for (QWidget* w : part->findChildren<QWidget*>()) {
            if (!w->isVisible() || !(w->focusPolicy() & Qt::TabFocus))
                continue;
            QAccessibleInterface* face = QAccessible::queryAccessibleInterface(w);
            if (!face || face->role() == QAccessible::NoRole)
                out << nameOf(w) + " has no role";
            // A field within a field is its owner's.
            if (qobject_cast<QAbstractSpinBox*>(w->parentWidget()) || qobject_cast<QComboBox*>(w->parentWidget()) ||
                qobject_cast<QKeySequenceEdit*>(w->parentWidget()))
                continue;
            if (accessibleName(w).trimmed().isEmpty())
                out << nameOf(w) + " has no name";
        }
        return out;
    }
    /// Words that do not stand out.
    static QStringList faint(QWidget* part)
    {
        QStringList out;
        const QImage all = part->grab().toImage().convertToFormat(QImage::Format_RGB32);
        for (QWidget* w : part->findChildren<QWidget*>()) {
            const auto* label = qobject_cast<QLabel*>(w);
            const auto* button = qobject_cast<QAbstractButton*>(w);
            const QString text = label ? label->text() : button ? button->text() : QString();
            // What cannot be used is let off (WCAG 1.4.3), and what lies over the picture is looked at elsewhere.
            if (text.trimmed().isEmpty() || !w->isVisible() || !w->isEnabled() || w->visibleRegion().isEmpty())
                continue;
            bool overPicture = false;
            for (QWidget* p = w->parentWidget(); p; p = p->parentWidget())
                overPicture |= p->objectName() == "picture";
            if (overPicture)
                continue;
            const QRect at = w->visibleRegion().boundingRect().translated(w->mapTo(part, QPoint(0, 0))) & all.rect();
            if (at.size() != w->size())
                continue; // a part of it is scrolled away
            std::map<QRgb, int> count;
            for (int y = at.top(); y <= at.bottom(); ++y)
                for (int x = at.left(); x <= at.right(); ++x)
                    ++count[all.pixel(x, y)];
            QRgb ground = 0;
            int most = 0;
            for (const auto& [colour, n] : count)
                if (n > most) {
                    most = n;
                    ground = colour;
                }
            double best = 1.0;
            for (const auto& [colour, n] : count)
                best = std::max(best, contrast(lightOf(colour), lightOf(ground)));
            if (best < 4.5)
                out << QString("%1 “%2”: %3 to 1").arg(nameOf(w), text.left(40)).arg(best, 0, 'f', 2);
        }
        return out;
    }
    void isGood(QWidget* part, const QString& where)
    {
        QTest::qWait(60);
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        const QStringList names = nameless(part), dim = faint(part);
        QVERIFY2(names.isEmpty(), qPrintable(where + ": " + names.mid(0, 8).join("; ")));
        QVERIFY2(dim.isEmpty(), qPrintable(where + ": " + dim.mid(0, 8).join("; ")));
    }

private Q_SLOTS:
    void initTestCase() { test::prepareApplication(); }
    void init()
    {
        QFETCH_GLOBAL(bool, light);
        QSettings().clear();
        QSettings().setValue("followPaths", false);
        QSettings().setValue("lightWindow", light);
        Theme::useLight(light);
        applyTheme();
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
    void initTestCase_data()
    {
        QTest::addColumn<bool>("light");
        QTest::newRow("dark") << false;
        QTest::newRow("light") << true;
    }
    void cleanup() { window_.reset(); }

    void everyFamilyAndItsCards()
    {
        using F = scene::Family;
        for (const F family : {F::Air, F::Fire, F::Weather, F::Water, F::Lights, F::Set, F::Finish}) {
            window_->chooseFamily(family);
            isGood(window_.get(), QString::fromStdString(scene::familyName(family)));
            std::vector<std::string> all;
            for (const scene::Element& e : session().project().elements)
                if (e.kind->family == family)
                    all.push_back(e.id);
            for (const std::string& id : all) {
                window_->unfold(id);
                isGood(window_.get(), QString::fromStdString(id));
                if (QTest::currentTestFailed())
                    return;
            }
        }
    }
    void everyPageOfTheBench()
    {
        session().readings().addPin({0.5, 0.8});
        session().proofs().keep();
        for (const QString& page : window_->bench().pages()) {
            window_->bench().showPage(page);
            QTest::qWait(300);
            isGood(window_.get(), page);
            if (QTest::currentTestFailed())
                return;
        }
    }
    void everyDialog()
    {
        PreferencesDialog preferences(*window_);
        preferences.show();
        for (int page = 0; page < 4; ++page) {
            preferences.showPage(page);
            isGood(&preferences, QString("preferences %1").arg(page));
        }
        preferences.hide();
        Finder finder(*window_);
        finder.show();
        isGood(&finder, "finder");
        finder.hide();
        ExportDialog exporting(session(), window_.get());
        exporting.show();
        isGood(&exporting, "export");
        exporting.hide();
        AddPlace adding(
            session(), [](const std::string&) {}, window_.get());
        adding.show();
        isGood(&adding, "add");
        adding.hide();
        window_->showFirstPage();
        isGood(window_.get(), "first page");
        window_->showPicture();
        session().bracket().setSamples(1);
        window_->showBracket("haze.visibility");
        isGood(window_.get(), "bracket");
    }
    void tabReachesEverythingAndComesBack()
    {
        window_->chooseFamily(scene::Family::Air);
        window_->unfold("haze");
        QTest::qWait(150);
        // By what Tab does: from one to the next until the first is there again.
        std::set<QWidget*> reached;
        window_->activateWindow();
        window_->setFocus();
        for (int i = 0; i < 600; ++i) {
            QTest::keyClick(window_->focusWidget() ? window_->focusWidget() : window_.get(), Qt::Key_Tab);
            QWidget* now = window_->focusWidget();
            if (!now || (!reached.insert(now).second && i > 5 && reached.size() > 20))
                break;
        }
        QStringList left;
        for (QWidget* w : window_->centralWidget()->findChildren<QWidget*>()) {
            if (!w->isVisible() || !w->isEnabled() || w->visibleRegion().isEmpty() ||
                !(w->focusPolicy() & Qt::TabFocus) || w->focusProxy())
                continue;
            if (!reached.contains(w))
                left << nameOf(w);
        }
        QVERIFY2(left.isEmpty(),
                 qPrintable(QString("%1 reached; not: %2").arg(reached.size()).arg(left.mid(0, 8).join("; "))));
    }
    void whatHasTheFocusIsSeen()
    {
        window_->chooseFamily(scene::Family::Air);
        window_->unfold("haze");
        window_->activateWindow();
        QTest::qWait(150);
        QStringList same;
        for (QWidget* w : window_->centralWidget()->findChildren<QWidget*>()) {
            if (!w->isVisible() || !w->isEnabled() || w->visibleRegion().isEmpty() ||
                !(w->focusPolicy() & Qt::TabFocus) || qobject_cast<QAbstractScrollArea*>(w))
                continue;
            window_->setFocus();
            const QRect around = QRect(w->mapTo(window_.get(), QPoint(-3, -3)), w->size() + QSize(6, 6));
            const QImage before = window_->grab(around).toImage();
            w->setFocus(Qt::TabFocusReason);
            if (window_->focusWidget() != w && !w->isAncestorOf(window_->focusWidget()))
                continue;
            if (window_->grab(around).toImage() == before)
                same << nameOf(w);
        }
        QVERIFY2(same.isEmpty(), qPrintable(same.mid(0, 10).join("; ")));
    }
};

QTEST_MAIN(TestAccess)
#include "test_access.moc"
