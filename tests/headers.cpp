// Nothing of its own: the tests' common headers are precompiled with it.
