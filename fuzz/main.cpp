// One reader, fed by libFuzzer.
#include "support/readers.h"

#ifndef READER
#error "the reader's name is given by CMake"
#endif

extern "C" int LLVMFuzzerTestOneInput(const uint8_t* data, size_t size) {
    static const glyptos::test::Reader& reader = glyptos::test::reader(READER);
    reader.read({data, size});
    return 0;
}
