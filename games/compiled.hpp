#pragma once
// The searches of the demonstration games as they are compiled in arvek::offers: a source that includes this links them
// and does not compile them once more.

#include <arvek/lab/check.hpp>
#include <arvek/opponent/make_opponent.hpp>

#include "convoy/convoy.hpp"
#include "lanterns/lanterns.hpp"
#include "nightwatch/nightwatch.hpp"
#include "scuffle/scuffle.hpp"
#include "sluice/sluice.hpp"
#include "windlass/windlass.hpp"

namespace arvek {

extern template class Choosers<waterway::Convoy>;
extern template AnySolver any_solver<waterway::Convoy>();
extern template class Choosers<waterway::Lanterns>;
extern template AnySolver any_solver<waterway::Lanterns>();
extern template class Choosers<waterway::Nightwatch>;
extern template AnySolver any_solver<waterway::Nightwatch>();
extern template class Choosers<waterway::Scuffle>;
extern template AnySolver any_solver<waterway::Scuffle>();
extern template class Choosers<waterway::Sluice>;
extern template AnySolver any_solver<waterway::Sluice>();
extern template class Choosers<waterway::Windlass>;
extern template AnySolver any_solver<waterway::Windlass>();

}  // namespace arvek
