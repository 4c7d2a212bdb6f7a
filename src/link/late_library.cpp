#include "link/late_library.h"

#include <dlfcn.h>

namespace cognitum {

void* LateLibrary::address_of(const char* name) {
    std::call_once(m_once, [this] { m_handle = dlopen(m_file, RTLD_NOW | RTLD_LOCAL); });
    return m_handle ? dlsym(m_handle, name) : nullptr;
}

} // namespace cognitum
