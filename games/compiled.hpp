#pragma once
// Opponents and checks of the demonstration games as they are compiled in arvek::offers: a source that includes this
// links them and does not compile every search once more.

#include <arvek/lab/check.hpp>
#include <arvek/opponent/opponent.hpp>

#include "convoy/convoy.hpp"
#include "lanterns/lanterns.hpp"
#include "nightwatch/nightwatch.hpp"
#include "scuffle/scuffle.hpp"
#include "sluice/sluice.hpp"
#include "windlass/windlass.hpp"

namespace arvek {

extern template std::unique_ptr<Opponent<waterway::Convoy>> make_opponent(const waterway::Convoy&, const OpponentSpec&,
                                                                          const OpponentMeans&);
extern template CheckReport check_rules(const waterway::Convoy&, const CheckOptions&);
extern template std::unique_ptr<Opponent<waterway::Lanterns>> make_opponent(const waterway::Lanterns&,
                                                                            const OpponentSpec&, const OpponentMeans&);
extern template CheckReport check_rules(const waterway::Lanterns&, const CheckOptions&);
extern template std::unique_ptr<Opponent<waterway::Nightwatch>> make_opponent(const waterway::Nightwatch&,
                                                                              const OpponentSpec&,
                                                                              const OpponentMeans&);
extern template CheckReport check_rules(const waterway::Nightwatch&, const CheckOptions&);
extern template std::unique_ptr<Opponent<waterway::Scuffle>> make_opponent(const waterway::Scuffle&,
                                                                           const OpponentSpec&, const OpponentMeans&);
extern template CheckReport check_rules(const waterway::Scuffle&, const CheckOptions&);
extern template std::unique_ptr<Opponent<waterway::Sluice>> make_opponent(const waterway::Sluice&, const OpponentSpec&,
                                                                          const OpponentMeans&);
extern template CheckReport check_rules(const waterway::Sluice&, const CheckOptions&);
extern template std::unique_ptr<Opponent<waterway::Windlass>> make_opponent(const waterway::Windlass&,
                                                                            const OpponentSpec&, const OpponentMeans&);
extern template CheckReport check_rules(const waterway::Windlass&, const CheckOptions&);

}  // namespace arvek
