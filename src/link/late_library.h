// A C library that is loaded when something of it is called for the first time. A window that starts pays for what
// it needs then: to load the two network libraries, with all that they bring along, takes as long as to draw a
// page.
#pragma once

#include <mutex>

namespace cognitum {

class LateLibrary {
  public:
    /// `file`: as the loader knows it, "libmosquitto.so.1".
    explicit LateLibrary(const char* file) : m_file(file) {}
    /// The function of that name and type; null: the library is not on this computer. On any thread.
    template <typename Function>
    Function* find(const char* name) {
        return reinterpret_cast<Function*>(address_of(name));
    }

  private:
    void* address_of(const char* name);
    const char* m_file;
    std::once_flag m_once;
    void* m_handle = nullptr; ///< kept until the program ends
};

} // namespace cognitum
