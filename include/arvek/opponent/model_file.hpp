#pragma once
// What was learned from play as a file: one JSON document, which says what the patterns of the game are and what they
// weigh. docs/learning.md has its fields.

#include <string>
#include <string_view>

#include "arvek/game/any_game.hpp"
#include "arvek/search/learned_model.hpp"

namespace arvek {

/// A JSON document that read_model() reads back to the same model, to the bit.
std::string model_as_json(const LearnedModel& model);

/// Throws InputError, in which `source` is named, for a text that is no model.
LearnedModel read_model(std::string_view text, std::string_view source);

/// Throws InputError where the game does not have the patterns of the model, and says which differ; and where a model cannot be
/// had of the game: it is not for two, or has no patterns.
void require_model_fits(const AnyGame& game, const LearnedModel& model);

/// Throws InputError where nothing can be learned of the game: it is not for two, or has no patterns.
void require_learnable(const AnyGame& game);

}  // namespace arvek
