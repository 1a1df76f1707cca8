#include "app/lead_ruler.h"
#include "app/theme.h"
#include "app/tone_curve.h"
#include "support.h"

#include <QLineEdit>

using namespace hygros;
using namespace hygros::app;

class TestWidgets : public QObject {
    Q_OBJECT
    const scene::Parameter& visibility()
    {
        return *scene::findParameter(elements::findKind("haze")->parameters, "visibility");
    }

private Q_SLOTS:
    void initTestCase() { applyTheme(); }

    void rulerIsDraggedTurnedAndReset()
    {
        LeadRuler r(visibility());
        r.resize(200, 44);
        r.setValue(2500);
        r.show();
        double last = 0;
        connect(&r, &LeadRuler::valueEdited, &r, [&](double v, bool) { last = v; });
        QTest::mousePress(&r, Qt::LeftButton, {}, QPoint(40, 32));
        const double at40 = last;
        QTest::mouseMove(&r, QPoint(120, 32));
        QVERIFY(last > at40 * 5); // the scale is logarithmic: 50 m to 50 km over 194 pixels
        const double coarse = last;
        QTest::mouseRelease(&r, Qt::LeftButton, {}, QPoint(120, 32));
        QTest::keyClick(&r, Qt::Key_Right);
        QVERIFY(last > coarse && last < coarse * 1.2);
        const double stepped = last;
        QTest::keyClick(&r, Qt::Key_Left, Qt::ShiftModifier);
        QVERIFY(last < stepped && last > stepped * 0.97);
        QTest::mouseDClick(&r, Qt::LeftButton, {}, QPoint(60, 32));
        QCOMPARE(last, 2500.0);
    }

    void rulerTakesTypedUnitsAndRefusesNonsense()
    {
        LeadRuler r(visibility());
        r.resize(200, 44);
        r.setValue(2500);
        r.show();
        double last = 0;
        QString complaint;
        connect(&r, &LeadRuler::valueEdited, &r, [&](double v, bool) { last = v; });
        connect(&r, &LeadRuler::refused, &r, [&](const QString& s) { complaint = s; });
        const auto type = [&](const QString& text) {
            r.beginTyping();
            auto* field = r.findChild<QLineEdit*>();
            QVERIFY(field);
            field->setText(text);
            QTest::keyClick(field, Qt::Key_Return);
            QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        };
        type("0.01 /m");
        NEAR(last, 299.573, 1e-5);
        type("1.2 km");
        QCOMPARE(last, 1200.0);
        type("soup");
        QCOMPARE(last, 1200.0);
        QVERIFY(complaint.contains("does not understand 'soup'"));
        type("-4 km");
        QVERIFY(complaint.contains("must lie within"));
        QCOMPARE(r.value(), 1200.0);
    }

    void wheelTurnsOnlyAChosenRuler()
    {
        LeadRuler r(visibility());
        r.resize(200, 44);
        r.setValue(2500);
        int edits = 0;
        connect(&r, &LeadRuler::valueEdited, &r, [&](double, bool) { ++edits; });
        QWheelEvent turn(QPointF(50, 30), QPointF(50, 30), {}, QPoint(0, 120), Qt::NoButton, Qt::NoModifier,
                         Qt::NoScrollPhase, false);
        QCoreApplication::sendEvent(&r, &turn);
        QCOMPARE(edits, 0);
        r.show();
        r.activateWindow();
        r.setFocus();
        QTRY_VERIFY(r.hasFocus());
        QCoreApplication::sendEvent(&r, &turn);
        QCOMPARE(edits, 1);
        QVERIFY(r.value() > 2500);
    }

    void toneCurvePointsMoveButNeverCross()
    {
        ToneCurve c;
        c.resize(300, 190);
        const scene::CurvePoints start{{-8, 0}, {0, 0.2f}, {6, 1}};
        c.setCurve(start);
        c.show();
        // The middle point's place: stops −10…8 over the plot.
        const auto place = [&](const Vec2& p) {
            return QPoint(static_cast<int>(30 + (p.x + 10) / 18 * 262), static_cast<int>(8 + 158 - p.y * 158));
        };
        QTest::mousePress(&c, Qt::LeftButton, {}, place(start[1]));
        QTest::mouseMove(&c, place(Vec2(1, 0.4f)));
        QVERIFY(std::abs(c.curve()[1].x - 1.f) < 0.1f && std::abs(c.curve()[1].y - 0.4f) < 0.02f);
        QTest::mouseMove(&c, place(Vec2(7.5f, 0.9f)));
        QVERIFY(c.curve()[1].x < 6.f);
        QTest::mouseRelease(&c, Qt::LeftButton, {}, place(Vec2(7.5f, 0.9f)));
        QTest::keyClick(&c, Qt::Key_Delete);
        QCOMPARE(c.curve().size(), 2u);
        QTest::keyClick(&c, Qt::Key_Delete);
        QCOMPARE(c.curve().size(), 2u);
    }

    void textHasEnoughContrast()
    {
        const auto luminanceOf = [](const QColor& c) {
            const auto lin = [](double v) { return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
            return 0.2126 * lin(c.redF()) + 0.7152 * lin(c.greenF()) + 0.0722 * lin(c.blueF());
        };
        const auto ratio = [&](const QColor& a, const QColor& b) {
            const double la = luminanceOf(a), lb = luminanceOf(b);
            return (std::max(la, lb) + 0.05) / (std::min(la, lb) + 0.05);
        };
        for (const bool light : {false, true}) {
            Theme::useLight(light);
            const Theme& t = Theme::now();
            for (const QColor& ground : {t.window, t.panel, t.raised}) {
                QVERIFY(ratio(t.text, ground) >= 4.5);
                QVERIFY2(ratio(t.quiet, ground) >= 4.5,
                         qPrintable(QString("%1 on %2").arg(t.quiet.name(), ground.name())));
                QVERIFY2(ratio(t.accent, ground) >= 4.5,
                         qPrintable(QString("%1 on %2").arg(t.accent.name(), ground.name())));
            }
        }
        Theme::useLight(false);
    }
};
QTEST_MAIN(TestWidgets)
#include "test_widgets.moc"
