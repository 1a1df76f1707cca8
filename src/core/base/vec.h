#pragma once
/// Vectors, boxes and matrices: Imath's value types under short names. Lengths are metres; Y is up, the
/// camera of an untouched shot looks along −Z (the axes of glTF 2.0).
#include <Imath/ImathBox.h>
#include <Imath/ImathMatrix.h>
#include <Imath/ImathVec.h>

namespace hygros {
using Vec2 = Imath::V2f;
using Vec3 = Imath::V3f;
using Box3 = Imath::Box3f;
using Mat4 = Imath::M44f;

inline constexpr float pi = 3.14159265358979323846f;

inline float radians(double degrees) { return static_cast<float>(degrees * 3.14159265358979323846 / 180.0); }

/// Rec. 709 luminance of a linear colour.
inline float luminance(const Vec3& c) { return 0.2126f * c.x + 0.7152f * c.y + 0.0722f * c.z; }

inline float maxComponent(const Vec3& c) { return c.x > c.y ? (c.x > c.z ? c.x : c.z) : (c.y > c.z ? c.y : c.z); }

template <class T> T lerp(const T& a, const T& b, float t) { return a + (b - a) * t; }

/// Two unit vectors that complete `n` (unit length) to a right-handed frame (Duff et al. 2017).
inline void frameAround(const Vec3& n, Vec3& tangent, Vec3& bitangent)
{
    const float sign = n.z >= 0.f ? 1.f : -1.f;
    const float a = -1.f / (sign + n.z);
    const float b = n.x * n.y * a;
    tangent = Vec3(1.f + sign * n.x * n.x * a, sign * b, -sign * n.x);
    bitangent = Vec3(b, sign + n.y * n.y * a, -n.y);
}
} // namespace hygros
