/// Every parameter of every kind, by its one description: defaults, ranges, texts, rulers, paths.
#include "base/error.h"
#include "base/job.h"
#include "scene/history.h"
#include "support.h"

#include <set>

using namespace hygros;
using namespace hygros::scene;

Q_DECLARE_METATYPE(const hygros::scene::Parameter*)

class TestParameter : public QObject {
    Q_OBJECT
    static void rows()
    {
        QTest::addColumn<const Parameter*>("p");
        for (const elements::Kind& k : elements::kinds())
            for (const Parameter& p : k.parameters)
                QTest::addRow("%s.%s", k.id.c_str(), p.id.c_str()) << &p;
    }
    static bool isNumber(const Parameter& p) { return p.type == ValueType::Number || p.type == ValueType::Whole; }
    static double numberOf(const Value& v)
    {
        return std::holds_alternative<double>(v) ? std::get<double>(v) : double(std::get<std::int64_t>(v));
    }
    static bool refuses(const Parameter& p, const Value& v)
    {
        try {
            (void)p.checked(v);
            return false;
        } catch (const std::invalid_argument& e) {
            // A sentence for people names the parameter.
            return std::string(e.what()).find(p.label) != std::string::npos;
        }
    }

private Q_SLOTS:
    void everyParameterIsDescribed_data() { rows(); }
    void everyParameterIsDescribed()
    {
        QFETCH(const Parameter*, p);
        QVERIFY(!p->id.empty() && p->id.find('.') == std::string::npos && p->id.find(' ') == std::string::npos);
        QVERIFY(!p->label.empty());
        QVERIFY2(p->help.size() > 8 && p->help.ends_with('.'), p->help.c_str());
        QVERIFY(!p->group.empty());
    }

    void theDefaultIsAllowedAndOnTheRuler_data() { rows(); }
    void theDefaultIsAllowedAndOnTheRuler()
    {
        QFETCH(const Parameter*, p);
        QVERIFY(p->checked(p->fallback) == p->fallback);
        if (!isNumber(*p))
            return;
        const double v = numberOf(p->fallback);
        QVERIFY(p->softMin >= p->hardMin && p->softMax <= p->hardMax && p->softMin < p->softMax);
        QVERIFY(v >= p->softMin - 1e-9 && v <= p->softMax + 1e-9);
        QVERIFY(!p->logarithmic || p->softMin > 0.0);
    }

    void whatIsShownReadsBack_data() { rows(); }
    void whatIsShownReadsBack()
    {
        QFETCH(const Parameter*, p);
        if (p->type == ValueType::Curve || p->type == ValueType::File || p->type == ValueType::Text)
            return;
        const Value back = p->parsed(p->shown(p->fallback));
        if (isNumber(*p)) {
            const double v = numberOf(p->fallback);
            QVERIFY(std::abs(numberOf(back) - v) <= 0.006 * std::abs(v) + 1e-9);
        } else {
            QVERIFY(back == p->fallback);
        }
    }

    void numbersOutOfRangeAndNotNumbersAreRefused_data() { rows(); }
    void numbersOutOfRangeAndNotNumbersAreRefused()
    {
        QFETCH(const Parameter*, p);
        if (p->type != ValueType::Number)
            return;
        QVERIFY(refuses(*p, std::nan("")));
        QVERIFY(refuses(*p, std::numeric_limits<double>::infinity()));
        if (p->hardMin > -1e299) {
            QVERIFY(refuses(*p, p->hardMin - std::max(1.0, std::abs(p->hardMin))));
            QVERIFY(refuses(*p, p->hardMax + std::max(1.0, std::abs(p->hardMax))));
            QVERIFY(p->checked(p->hardMin) == Value(p->hardMin) && p->checked(p->hardMax) == Value(p->hardMax));
            QVERIFY(!p->rangeShown().empty());
        }
        QVERIFY(refuses(*p, std::string("much")));
    }

    void theWrongTypeIsRefused_data() { rows(); }
    void theWrongTypeIsRefused()
    {
        QFETCH(const Parameter*, p);
        const Value wrong = p->type == ValueType::Colour || p->type == ValueType::Point ? Value(1.0)
                                                                                        : Value(Vec3(1, 2, 3));
        QVERIFY(refuses(*p, wrong));
        if (p->type == ValueType::Choice)
            QVERIFY(refuses(*p, std::string("neither of these")));
        if (p->type == ValueType::Curve)
            QVERIFY(refuses(*p, CurvePoints{{0.f, 0.5f}, {0.f, 0.6f}}));
        if (p->type == ValueType::Stops) {
            QVERIFY(refuses(*p, ColourStops{{0.f, Vec3(1.f), 1.f}}));                          // one colour is no ramp
            QVERIFY(refuses(*p, ColourStops{{0.5f, Vec3(1.f), 1.f}, {0.5f, Vec3(1.f), 1.f}})); // places must rise
            QVERIFY(refuses(*p, ColourStops{{0.f, Vec3(1.f), 0.f}, {1.f, Vec3(1.f), 1.5f}}));  // more than opaque
            QVERIFY(refuses(*p, ColourStops(9, scene::ColourStop{})));
            const auto typed = std::get<ColourStops>(p->parsed("0 #ffffff 0%; 0.5 0.2 0.3 0.4 50%; 1 #000000 1"));
            QCOMPARE(typed.size(), std::size_t{3});
            QCOMPARE(typed[1].opacity, 0.5f);
            QCOMPARE(typed[1].colour.y, 0.3f);
        }
    }

    void rulersRiseFromEndToEnd_data() { rows(); }
    void rulersRiseFromEndToEnd()
    {
        QFETCH(const Parameter*, p);
        if (!isNumber(*p))
            return;
        NEAR(p->rulerValue(0.0), p->softMin, 1e-9);
        NEAR(p->rulerValue(1.0), p->softMax, 1e-9);
        double before = -1e300;
        for (double u = 0.0; u <= 1.0; u += 0.05) {
            const double v = p->rulerValue(u);
            QVERIFY(v > before);
            before = v;
            QVERIFY(std::abs(p->rulerPosition(v) - u) < 1e-9);
        }
    }

    void aliasesGoThereAndBack_data() { rows(); }
    void aliasesGoThereAndBack()
    {
        QFETCH(const Parameter*, p);
        for (const Parameter::Alias& a : p->aliases)
            for (const double v : {p->softMin, 0.5 * (p->softMin + p->softMax), p->softMax})
                NEAR(a.toOwn(a.fromOwn(v)), v, 1e-12);
    }

    void conditionsNameWhatExists_data() { rows(); }
    void conditionsNameWhatExists()
    {
        QFETCH(const Parameter*, p);
        if (p->shownWhen.empty())
            return;
        // Some kind has both this parameter and the choice its condition names, with that value.
        const std::string other = p->shownWhen.substr(0, p->shownWhen.find('='));
        bool found = false;
        for (const elements::Kind& k : elements::kinds())
            if (findParameter(k.parameters, p->id) == p)
                if (const Parameter* q = findParameter(k.parameters, other)) {
                    std::string rest = p->shownWhen.substr(p->shownWhen.find('=') + 1) + "|";
                    found = true;
                    for (std::size_t bar; (bar = rest.find('|')) != std::string::npos; rest.erase(0, bar + 1)) {
                        const std::string value = rest.substr(0, bar);
                        found = found && (q->type != ValueType::Choice ||
                                          std::find(q->choices.begin(), q->choices.end(), value) != q->choices.end());
                    }
                }
        QVERIFY2(found, p->shownWhen.c_str());
    }

    void idsAndLabelsAreUniqueInTheirKind()
    {
        std::set<std::string> kinds;
        for (const elements::Kind& k : elements::kinds()) {
            QVERIFY(kinds.insert(k.id).second);
            QVERIFY(!k.label.empty() && !k.help.empty());
            std::set<std::string> ids, labels;
            int lead = 0;
            for (const Parameter& p : k.parameters) {
                QVERIFY2(ids.insert(p.id).second, p.id.c_str());
                labels.insert(p.label + "/" + p.group + "/" + p.shownWhen);
                lead += p.isLead;
            }
            QCOMPARE(labels.size(), k.parameters.size());
            QVERIFY2(lead <= 4, k.id.c_str());
        }
        QVERIFY(elements::findKind("haze") && !elements::findKind("hazes"));
    }

    void aPathSaysWhatExistsWhenItIsWrong()
    {
        Project p = elements::newProject();
        p.add(*elements::findKind("haze"), "Haze");
        THROWS_SAYING(p.setPath("hase.visibility", "2 km"), "haze");
        THROWS_SAYING(p.setPath("haze.vis", "2 km"), "visibility");
        THROWS_SAYING(p.setPath("haze", "2 km"), "haze");
        THROWS_SAYING(p.setPath("haze.visibility", "2 parsecs"), "visibility");
        THROWS_SAYING(p.setPath("haze.visibility", "-2 km"), "visibility");
        p.setPath("haze.visibility", "3 km");
        p.setPath("haze.albedo", "#ffffff");
        QCOMPARE(std::get<double>(p.find("haze")->value("visibility")), 3000.0);
        QCOMPARE(std::get<Vec3>(p.find("haze")->value("albedo")), Vec3(1.f));
    }

    void newElementsGetIdsOfTheirOwn()
    {
        Project p = elements::newProject();
        const auto& kind = *elements::findKind("fogBank");
        std::set<std::string> ids;
        for (int i = 0; i < 5; ++i)
            QVERIFY(ids.insert(p.add(kind, "Low fog").id).second);
        for (const std::string& id : ids)
            QVERIFY(id.find('.') == std::string::npos && id.find(' ') == std::string::npos);
        const std::size_t before = p.elements.size();
        p.remove(*ids.begin());
        QCOMPARE(p.elements.size(), before - 1);
        p.remove("nobody");
        QCOMPARE(p.elements.size(), before - 1);
        QVERIFY(!p.add(kind, "…").id.empty());
    }

    void copiesShareNothingThatIsEdited()
    {
        Project a = elements::newProject();
        a.add(*elements::findKind("haze"), "Haze");
        Project b = a;
        b.find("haze")->set("visibility", 123.0);
        QCOMPARE(std::get<double>(b.find("haze")->value("visibility")), 123.0);
        QVERIFY(std::get<double>(a.find("haze")->value("visibility")) != 123.0);
    }

    void historyForgetsTheOldestAndDropsWhatWasUndone()
    {
        History h(elements::newProject());
        for (int i = 1; i <= 700; ++i) {
            Project next = h.now();
            next.frame = i;
            h.push(next, "Frame " + std::to_string(i));
        }
        QCOMPARE(h.undoName(), std::string("Frame 700"));
        int steps = 0;
        while (h.canUndo()) {
            h.undo();
            ++steps;
        }
        QVERIFY(steps >= 400 && steps < 700);
        h.redo();
        Project other = h.now();
        other.frame = -5;
        h.push(other, "Another way");
        QVERIFY(!h.canRedo());
        QCOMPARE(h.now().frame, -5);
        // A drag that was closed does not swallow the next one.
        for (const bool close : {false, true}) {
            const double start = h.now().frame;
            for (int i = 0; i < 3; ++i) {
                Project next = h.now();
                next.frame = start + 10 + i;
                h.push(next, "Drag", "frame");
            }
            if (close)
                h.close();
        }
        h.undo();
        QCOMPARE(h.undoName(), std::string("Another way"));
    }

    void errorsReadAsSentences()
    {
        const Error e = inputError("Reading", "a.glb", "it is cut short", "Nothing was replaced.");
        QCOMPARE(std::string(e.what()), std::string("Reading 'a.glb': it is cut short. Nothing was replaced."));
        QVERIFY(e.fault() == Fault::Input);
        QCOMPARE(std::string(workingError("Saving", "", "the disk is full.").what()),
                 std::string("Saving: the disk is full."));
        QVERIFY(workingError("Saving", "", "x").fault() == Fault::Working);
    }

    void jobsReportAndStop()
    {
        JobControl job;
        QCOMPARE(job.progress(), 0.f);
        job.report(0.4f, "Reading meshes");
        QCOMPARE(job.progress(), 0.4f);
        QCOMPARE(job.message(), std::string("Reading meshes"));
        job.check();
        job.cancel();
        QVERIFY(job.cancelled());
        THROWS_SAYING(job.check(), "cancelled");
    }
};
QTEST_APPLESS_MAIN(TestParameter)
#include "test_parameter.moc"
