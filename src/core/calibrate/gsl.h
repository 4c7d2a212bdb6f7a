// RAII for the few GSL objects that the fits use; the one place that owns them.
#pragma once

#include <gsl/gsl_errno.h>
#include <gsl/gsl_matrix.h>
#include <gsl/gsl_multifit.h>
#include <gsl/gsl_vector.h>
#include <memory>

namespace cognitum::gsl {

template <auto Free>
struct Deleter {
    template <typename T>
    void operator()(T* p) const {
        Free(p);
    }
};
using Vector = std::unique_ptr<gsl_vector, Deleter<gsl_vector_free>>;
using Matrix = std::unique_ptr<gsl_matrix, Deleter<gsl_matrix_free>>;
using Robust = std::unique_ptr<gsl_multifit_robust_workspace, Deleter<gsl_multifit_robust_free>>;
using Multifit = std::unique_ptr<gsl_multifit_linear_workspace, Deleter<gsl_multifit_linear_free>>;

/// While alive, GSL returns error codes instead of ending the program.
class QuietErrors {
  public:
    QuietErrors() : m_before(gsl_set_error_handler_off()) {}
    ~QuietErrors() { gsl_set_error_handler(m_before); }
    QuietErrors(const QuietErrors&) = delete;
    QuietErrors& operator=(const QuietErrors&) = delete;

  private:
    gsl_error_handler_t* m_before;
};

} // namespace cognitum::gsl
