/// The desktop's language must change nothing that is read or written: in many of them a comma parts the decimals.
#include "geometry/set_geometry.h"
#include "image/colour_table.h"
#include "image/image.h"
#include "light/gobo.h"
#include "light/profile.h"
#include "media/vdb.h"
#include "scene/recipe.h"
#include "support.h"

#include <QDir>
#include <QProcess>
#include <QTemporaryDir>
#include <clocale>
#include <fstream>

using namespace hygros;

class TestDesktop : public QObject {
    Q_OBJECT
    QTemporaryDir dir_;

    std::string write(const char* name, const std::string& text) const
    {
        const std::string file = dir_.filePath(name).toStdString();
        std::ofstream(file) << text;
        return file;
    }
    /// What every reader makes of files with decimals, as text that no language changes.
    QStringList allRead() const
    {
        QStringList out;
        const auto told = [&](const char* what, double value) {
            out << QString("%1 %2").arg(what).arg(value, 0, 'g', 7);
        };
        const std::string quarter = "v 0.25 0.5 0\nv 1.75 0.5 0\nv 1.75 2.125 0.5\n";
        const std::string ply = "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty "
                                "float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0.25 0.5 "
                                "0\n1.75 0.5 0\n1.75 2.125 0.5\n3 0 1 2\n";
        const std::string fbx =
            "; FBX 7.4.0 project file\nFBXHeaderExtension:  {\n\tFBXVersion: 7400\n}\nObjects:  {\n\tGeometry: 100, "
            "\"Geometry::a\", \"Mesh\" {\n\t\tVertices: *9 {\n\t\t\ta: "
            "0.25,0.5,0,1.75,0.5,0,1.75,2.125,0.5\n\t\t}\n\t\t"
            "PolygonVertexIndex: *3 {\n\t\t\ta: 0,1,-3\n\t\t}\n\t}\n\tModel: 200, \"Model::a\", \"Mesh\" {\n\t}\n}\n"
            "Connections:  {\n\tC: \"OO\",200,0\n\tC: \"OO\",100,200\n}\n";
        JobControl job;
        for (const auto& file :
             {write("a.obj", "mtllib a.mtl\nusemtl wall\n" + quarter + "f 1 2 3\n"), write("a.ply", ply),
              write("a.fbx", fbx), std::string(SOURCE_DIR) + "/demo/tender.glb"}) {
            const auto set = geometry::importSet(file, job);
            for (int k = 0; k < 3; ++k) {
                told("from", double(set->bounds.min[k]));
                told("to", double(set->bounds.max[k]));
            }
            for (const auto& m : set->materials)
                told("colour", double(m.baseColour.x));
        }
        const auto profile = light::Profile::parse("TILT=NONE\n1 1000 1.5 3 1 1 2 0 0 0\n1 0.9 60\n0 22.5 90\n0\n"
                                                   "1000.5 800.25 0.5\n",
                                                   "a.ies");
        told("candela", double(profile->candela()));
        told("at", double(profile->at(0.4f, 0.f)));
        F8 colour[3] = {f8(0.25f), f8(0.5f), f8(0.75f)};
        image::ColourTable::parse("LUT_1D_SIZE 2\nDOMAIN_MAX 1.5 1.5 1.5\n0.125 0.25 0.5\n1 1 1\n", "a.cube")
            ->apply(colour);
        told("table", double(colour[0][0]));
        told("outline", double(light::outlinesOf("0.5 0.25, 1 0.75, 0 1")[0][0].x));
        out << QString::fromStdString(light::textOf(light::outlinesOf("0.5 0.25, 1 0.75, 0 1")));
        for (const auto& held : media::vdbGrids(std::string(SOURCE_DIR) + "/demo/volumes/dust-plume.vdb"))
            out << QString::fromStdString(held.name);
        // A project, with what people would read of it.
        const scene::Project p = scene::loadProject(test::demo().toStdString(), elements::findKind);
        out << QString::fromStdString(scene::toJson(p));
        for (const scene::Element& e : p.elements)
            for (const scene::Parameter& q : e.kind->parameters)
                out << QString::fromStdString(q.id + ": " + q.shown(e.value(q.id)));
        scene::Element look = *p.find("look");
        look.set("white", elements::findKind("look")->parameters[1].parsed("5432.5 K"));
        told("parsed", std::get<double>(look.value("white")));
        // A picture with what is said of it.
        const std::string picture = dir_.filePath("a.exr").toStdString();
        image::writeExr(picture, image::Image(4, 2, {"R", "G", "B"}), {{"exposure", formatNumber(-1.25)}});
        for (const auto& [name, value] : image::imageFacts(picture).metadata)
            if (name == "exposure")
                out << QString::fromStdString(value);
        return out;
    }

private Q_SLOTS:
    void aCommaForDecimalsChangesNothing()
    {
        write("a.mtl", "newmtl wall\nKd 0.25 0.5 0.75\n");
        const QStringList before = allRead();
        QVERIFY(before.join('\n').contains("-1.25"));
        // A language of the desktop, made here, so that it need not be installed.
        QProcess make;
        make.start("localedef", {"-i", "de_DE", "-f", "UTF-8", dir_.filePath("de_DE.UTF-8")});
        if (!make.waitForFinished() || !QDir(dir_.filePath("de_DE.UTF-8")).exists())
            QSKIP("no language can be made here: the package locales is missing");
        qputenv("LOCPATH", dir_.path().toLocal8Bit());
        QVERIFY(std::setlocale(LC_ALL, "de_DE.UTF-8"));
        char text[16];
        std::snprintf(text, sizeof text, "%.2f", 0.25);
        QCOMPARE(QString(text), QString("0,25"));
        const QStringList after = allRead();
        std::setlocale(LC_ALL, "C");
        QCOMPARE(after.size(), before.size());
        for (qsizetype i = 0; i < after.size(); ++i)
            QCOMPARE(after[i], before[i]);
    }
};
QTEST_GUILESS_MAIN(TestDesktop)
#include "test_desktop.moc"
