#pragma once
// The tables of the demonstration games as they are compiled in arvek::offers: a source that includes this links them and
// does not compile them once more.

#include <arvek/lab/check.hpp>
#include <arvek/opponent/make_opponent.hpp>

#include "chess/chess.hpp"
#include "convoy/convoy.hpp"
#include "downstream/downstream.hpp"
#include "lanterns/lanterns.hpp"
#include "lanterns/many_lanterns.hpp"
#include "nightwatch/nightwatch.hpp"
#include "scuffle/scuffle.hpp"
#include "sluice/sluice.hpp"
#include "stowage/stowage.hpp"
#include "tolls/tolls.hpp"
#include "wager/wager.hpp"
#include "windlass/windlass.hpp"

// What is compiled for a game; `linkage` is `extern` where it is only used.
#define WATERWAY_COMPILED(linkage, game) linkage template std::shared_ptr<const arvek::GameTable> arvek::table_of(game);

WATERWAY_COMPILED(extern, waterway::Chess)
WATERWAY_COMPILED(extern, waterway::Convoy)
WATERWAY_COMPILED(extern, waterway::Downstream)
WATERWAY_COMPILED(extern, waterway::Lanterns)
WATERWAY_COMPILED(extern, waterway::ManyLanterns)
WATERWAY_COMPILED(extern, waterway::Nightwatch)
WATERWAY_COMPILED(extern, waterway::Scuffle)
WATERWAY_COMPILED(extern, waterway::Sluice)
WATERWAY_COMPILED(extern, waterway::Stowage)
WATERWAY_COMPILED(extern, waterway::Tolls)
WATERWAY_COMPILED(extern, waterway::Wager)
WATERWAY_COMPILED(extern, waterway::Windlass)
