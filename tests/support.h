#pragma once
/// Shared by tests: near-equality with a message, small shots made by hand, running the command line.
#include "elements/kinds.h"
#include "shot/shot.h"

#include <QImage>
#include <QProcess>
#include <QtTest>

namespace hygros::test {

inline QString demo() { return QString(SOURCE_DIR) + "/demo/first-light.hygros"; }

/// Under a sanitizer, where a program is five to twenty times slower, the same code is run with a sixteenth of the
/// samples; what noise alone bounds is left to the ordinary run.
#if defined(__SANITIZE_ADDRESS__) || defined(__SANITIZE_THREAD__)
inline constexpr bool watched = true;
#else
inline constexpr bool watched = false;
#endif
constexpr int often(int samples) { return watched ? std::max(1, samples / 16) : samples; }
constexpr double within(double bound) { return watched ? 1e9 : bound; }

/// Fails the test function with both numbers when |a − b| > relative·|b| + absolute.
#define NEAR(actual, wanted, relative)                                                                                 \
    do {                                                                                                               \
        const double a_ = double(actual), w_ = double(wanted);                                                         \
        QVERIFY2(std::abs(a_ - w_) <= double(relative) * std::abs(w_) + 1e-12,                                         \
                 qPrintable(QString("%1 = %2, wanted %3").arg(#actual).arg(a_, 0, 'g', 9).arg(w_, 0, 'g', 9)));        \
    } while (false)

#define THROWS_SAYING(expression, words)                                                                               \
    do {                                                                                                               \
        QString said_;                                                                                                 \
        try {                                                                                                          \
            expression;                                                                                                \
        } catch (const std::exception& e_) {                                                                           \
            said_ = e_.what();                                                                                         \
        }                                                                                                              \
        QVERIFY2(said_.contains(words), qPrintable("said: '" + said_ + "'"));                                          \
    } while (false)

inline std::shared_ptr<const geometry::RayScene> emptyScene()
{
    JobControl job;
    return std::make_shared<const geometry::RayScene>(std::vector<geometry::PlacedSet>(), job);
}

/// A horizontal square of the given half size at height y.
inline std::shared_ptr<const geometry::RayScene> plate(float y, float half, Vec3 colour = Vec3(0.5f),
                                                       float roughness = 1.f, float metallic = 0.f, bool hole = false)
{
    auto set = std::make_shared<geometry::SetGeometry>();
    geometry::Mesh m;
    m.positions = {Vec3(-half, y, -half), Vec3(half, y, -half), Vec3(half, y, half), Vec3(-half, y, half)};
    m.normals.assign(4, Vec3(0, 1, 0));
    m.indices = {0, 2, 1, 0, 3, 2};
    set->meshes.push_back(m);
    geometry::Material matte;
    matte.baseColour = colour;
    matte.roughness = roughness;
    matte.metallic = metallic;
    set->materials.push_back(matte);
    set->triangles = 2;
    JobControl job;
    geometry::PlacedSet placed{set, Mat4()};
    placed.matte = hole;
    return std::make_shared<const geometry::RayScene>(std::vector<geometry::PlacedSet>{placed}, job);
}
/// The same as a matte: nothing comes back from it.
inline std::shared_ptr<const geometry::RayScene> mattePlate(float y, float half)
{
    return plate(y, half, Vec3(0.f), 1.f, 0.f, true);
}

/// Still water, or polished metal.
inline std::shared_ptr<const geometry::RayScene> mirrorPlate(Vec3 base = Vec3(1.f), float metallic = 1.f)
{
    return plate(0.f, 90.f, base, 0.02f, metallic);
}

inline media::Medium uniformAir(float sigmaT, float g = 0.f, Vec3 albedo = Vec3(1.f))
{
    media::Medium m;
    m.id = "air";
    m.shape = media::Shape::Uniform;
    m.top = 1e6f;
    m.sigmaT = sigmaT;
    m.phase.g = g;
    m.albedo = albedo;
    return m;
}

struct Ran {
    int code;
    QString out, err;
};
inline Ran cli(const QStringList& arguments, const QString& folder = {})
{
    QProcess p;
    if (!folder.isEmpty())
        p.setWorkingDirectory(folder);
    p.start(CLI, arguments);
    if (!p.waitForFinished(240000))
        return {-1, {}, "did not finish"};
    return {p.exitStatus() == QProcess::NormalExit ? p.exitCode() : -2, QString::fromUtf8(p.readAllStandardOutput()),
            QString::fromUtf8(p.readAllStandardError())};
}
} // namespace hygros::test
