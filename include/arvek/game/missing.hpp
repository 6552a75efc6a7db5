#pragma once
// What a type lacks to be a game, said by the compiler in words.
//
// The front doors of the library take any type and ask here; the concepts in game.hpp and its neighbours stay plain.
// For your own code:  static_assert(arvek::Game<MyGame>);

#include "arvek/game/abilities.hpp"

namespace arvek {

namespace detail {

/// Keeps the compiler from adding its own account of a concept to the sentence.
consteval bool holds(bool condition) { return condition; }

}  // namespace detail

/// Fails to compile, with a sentence for each function that G lacks or declares differently; true for a sound game.
template <class G>
consteval bool game_is_complete() {
    static_assert(detail::holds(detail::HasPosition<G>),
                  "Arvek: the game needs a nested type  Position  that is copyable, default-"
                  "constructible and has operator==");
    static_assert(detail::holds(detail::HasMove<G>),
                  "Arvek: the game needs a nested type  Move  that is copyable, default-constructible and "
                  "has operator==");
    if constexpr (detail::HasPosition<G> && detail::HasMove<G>) {
        static_assert(detail::holds(detail::HasInitialPosition<G>),
                      "Arvek: the game needs  Position initial_position() const;");
        static_assert(detail::holds(detail::HasPlayerToMove<G>),
                      "Arvek: the game needs  arvek::Player player_to_move(const Position&) const;");
        static_assert(detail::holds(detail::HasGenerateMoves<G>),
                      "Arvek: the game needs  void generate_moves(const Position&, arvek::MoveList<Move>&) const;");
        static_assert(detail::holds(detail::HasPlay<G>),
                      "Arvek: the game needs  void play(Position&, const Move&) const;");
        static_assert(detail::holds(detail::HasOutcome<G>),
                      "Arvek: the game needs  std::optional<arvek::Outcome> outcome(const Position&) const;");
    }
    if constexpr (Game<G>) {
        if constexpr (requires { &G::play; })
            static_assert(
                detail::holds(!detail::PlaysOnACopy<G>),
                "Arvek: play must take the position by reference, or it changes a copy:  void play(Position&, "
                "const Move&) const;");
        // Slips of the pen that were made before; what they name would never be asked for.
        static_assert(detail::holds(!requires { &G::evalute; }), "Arvek: there is evalute(); did you mean  evaluate ?");
        static_assert(detail::holds(!requires { &G::evaulate; }),
                      "Arvek: there is evaulate(); did you mean  evaluate ?");
        static_assert(detail::holds(!requires { &G::draw_at_occurence; }),
                      "Arvek: there is draw_at_occurence(); did you mean  draw_at_occurrence ?");
        static_assert(detail::holds(!requires { &G::draw_at_ocurrence; }),
                      "Arvek: there is draw_at_ocurrence(); did you mean  draw_at_occurrence ?");
        static_assert(detail::holds(!requires { &G::repitition_key; }),
                      "Arvek: there is repitition_key(); did you mean  repetition_key ?");
        static_assert(detail::holds(!requires { &G::equivalance_hash; }),
                      "Arvek: there is equivalance_hash(); did you mean  equivalence_hash ?");
        static_assert(detail::holds(!requires { &G::saliance; }),
                      "Arvek: there is saliance(); did you mean  salience ?");
        static_assert(detail::holds(!requires { &G::quantites; }),
                      "Arvek: there is quantites(); did you mean  quantities ?");
        static_assert(detail::holds(!requires { &G::sugesters; }),
                      "Arvek: there is sugesters(); did you mean  suggesters ?");
        static_assert(detail::holds(!requires { &G::prefrence; }),
                      "Arvek: there is prefrence(); did you mean  preference ?");
        // An optional function that is there under its name but is declared differently would be ignored in silence.
        if constexpr (requires { &G::evaluate; })
            static_assert(detail::holds(EvaluatedGame<G>),
                          "Arvek: evaluate is there but must be  arvek::Score evaluate(const "
                          "Position&, arvek::Player) const;");
        if constexpr (requires { &G::hash; })
            static_assert(detail::holds(HashedGame<G>),
                          "Arvek: hash is there but must be  std::uint64_t hash(const Position&) const;");
        if constexpr (
            requires { &G::play_reversibly; } || requires { &G::take_back; })
            static_assert(
                detail::holds(ReversibleGame<G>),
                "Arvek: take-back must be the pair  Undo play_reversibly(Position&, const Move&) const;  void "
                "take_back(Position&, const Move&, const Undo&) const;");
        if constexpr (
            requires { &G::chance_is_next; } || requires { &G::generate_events; })
            static_assert(
                detail::holds(ListedChanceGame<G> || (DrawnChanceGame<G> && !requires { &G::generate_events; })),
                "Arvek: chance must be the pair  bool chance_is_next(const Position&) const;  void "
                "generate_events(const Position&, arvek::MoveList<arvek::Event<Move>>&) const;");
        if constexpr (requires { &G::draw_event; })
            static_assert(detail::holds(DrawnChanceGame<G>),
                          "Arvek: draw_event is there but must be  Move draw_event(const Position&, arvek::Random&) "
                          "const;  beside  bool chance_is_next(const Position&) const;");
        if constexpr (!requires { typename G::AllInSight; } &&
                      (
                          requires { typename G::View; } || requires { &G::view; } || requires { &G::sample; }))
            static_assert(detail::holds(ViewedGame<G>),
                          "Arvek: views must be a nested type  View  that is copyable, default-constructible and has "
                          "operator==, and the pair  View view(const Position&, arvek::Player) const;  Position "
                          "sample(const View&, arvek::Random&) const;");
        if constexpr (ViewedGame<G> && !AnswersAtRunTime<G>)
            static_assert(detail::holds(KeyedView<typename G::View>),
                          "Arvek: views are recognised by a hash: View must be a struct without padding and pointers, "
                          "or std::hash<View> must be there");
        if constexpr (
            !requires { typename G::AllInSight; } && requires { &G::view_text; })
            static_assert(detail::holds(ViewTextGame<G>),
                          "Arvek: view_text is there but must be  std::string view_text(const View&) const;");
        if constexpr (requires { &G::random_move; })
            static_assert(detail::holds(RandomMoveGame<G>),
                          "Arvek: random_move is there but must be  Move random_move(const Position&, arvek::Random&) "
                          "const;");
        if constexpr (requires { &G::play_out; })
            static_assert(detail::holds(PlayOutGame<G>),
                          "Arvek: play_out is there but must be  arvek::Outcome play_out(Position&, arvek::Random&) "
                          "const;");
        if constexpr (requires { &G::units_per_doubling; })
            static_assert(detail::holds(ScaledGame<G>),
                          "Arvek: units_per_doubling is there but must be  double units_per_doubling() const;");
        if constexpr (requires { &G::salience; })
            static_assert(detail::holds(SalientGame<G>),
                          "Arvek: salience is there but must be  double salience(const Position&, const Move&) const;");
        if constexpr (requires { &G::count_moves; })
            static_assert(detail::holds(CountingGame<G>),
                          "Arvek: count_moves is there but must be  int count_moves(const Position&) const;");
        if constexpr (requires { &G::level_change; })
            static_assert(detail::holds(ChangesLevels<G>),
                          "Arvek: level_change is there but must be  arvek::LevelChange level_change(int) const;");
        if constexpr (requires { &G::preference; })
            static_assert(
                detail::holds(PreferringGame<G>),
                "Arvek: preference is there but must be  int preference(const Position&, const Move&) const;");
        if constexpr (requires { &G::order_hint; })
            static_assert(
                detail::holds(HintingGame<G>),
                "Arvek: order_hint is there but must be  int order_hint(const Position&, const Move&) const;");
        if constexpr (requires { &G::generate_forcing_moves; })
            static_assert(detail::holds(ForcingGame<G>),
                          "Arvek: generate_forcing_moves is there but must be  void "
                          "generate_forcing_moves(const Position&, arvek::MoveList<Move>&) const;");
        if constexpr (requires { &G::generate_quiet_moves; })
            static_assert(
                detail::holds(StagedGame<G>),
                "Arvek: generate_quiet_moves is there but must be  void generate_quiet_moves(const Position&, "
                "arvek::MoveList<Move>&) const;  and the game needs generate_forcing_moves as well");
        if constexpr (
            requires { &G::play_nothing; } || requires { &G::nothing_is_sound; })
            static_assert(detail::holds(NullMoveGame<G>),
                          "Arvek: a null move must be the pair  void play_nothing(Position&) const;  bool "
                          "nothing_is_sound(const Position&) const;");
        if constexpr (requires { &G::generate_sufficient_moves; })
            static_assert(detail::holds(SufficingGame<G>),
                          "Arvek: generate_sufficient_moves is there but must be  void "
                          "generate_sufficient_moves(const Position&, arvek::MoveList<Move>&) const;");
        if constexpr (requires { &G::template visit_moves<detail::AnyVisit<typename G::Move>>; })
            static_assert(detail::holds(VisitingGame<G>),
                          "Arvek: visit_moves is there but must be  template <class Visit> void "
                          "visit_moves(const Position&, Visit) const;");
        if constexpr (requires { &G::equivalence_hash; })
            static_assert(detail::holds(EquivalenceGame<G>),
                          "Arvek: equivalence_hash must be  std::uint64_t equivalence_hash(const Position&) const;  "
                          "and the game needs hash as well");
        if constexpr (requires { &G::payoff_bounds; })
            static_assert(detail::holds(BoundedGame<G>),
                          "Arvek: payoff_bounds is there but must be  arvek::PayoffBounds "
                          "payoff_bounds(const Position&, arvek::Player) const;");
        if constexpr (requires { &G::drawing; })
            static_assert(detail::holds(DrawnGame<G>),
                          "Arvek: drawing is there but must be  std::string drawing(const Position&) const;");
        if constexpr (requires { &G::board; })
            static_assert(
                detail::holds(BoardGame<G>),
                "Arvek: board is there but must be  arvek::Board board(const Position&, arvek::Player viewer) "
                "const;");
        if constexpr (requires { &G::read_move; })
            static_assert(detail::holds(ReadsMoves<G>),
                          "Arvek: read_move is there but must be  Move read_move(const Position&, "
                          "std::string_view) const;");
        if constexpr (requires { &G::coordinates; })
            static_assert(detail::holds(CoordinatesGame<G>),
                          "Arvek: coordinates is there but must be  std::string coordinates(const Position&, const "
                          "Move&) const;");
        if constexpr (requires { &G::player_name; })
            static_assert(detail::holds(NamesPlayers<G>),
                          "Arvek: player_name is there but must be  std::string player_name(arvek::Player) const;");
        if constexpr (requires { &G::players; })
            static_assert(detail::holds(CountedPlayersGame<G>),
                          "Arvek: players is there but must be  int players() const;");
        if constexpr (requires { &G::draw_at_occurrence; })
            static_assert(detail::holds(RepeatingGame<G>),
                          "Arvek: draw_at_occurrence is there but must be  int draw_at_occurrence() const;");
        if constexpr (requires { &G::repetition_key; })
            static_assert(detail::holds(KeyedRepetitionGame<G>),
                          "Arvek: repetition_key is there but must be  std::uint64_t repetition_key(const Position&) "
                          "const;  and the game needs draw_at_occurrence as well");
        if constexpr (requires { &G::most_payoff; })
            static_assert(detail::holds(CappedGame<G>),
                          "Arvek: most_payoff is there but must be  arvek::Payoff most_payoff() const;");
        if constexpr (
            !requires { typename G::AllInSight; } && requires { &G::quantities; })
            static_assert(
                detail::holds(MeasuredGame<G>),
                "Arvek: quantities is there but must be  std::span<const arvek::Quantity<MyGame>> quantities() "
                "const;  of quantities that outlive the game");
        if constexpr (
            requires { &G::patterns; } || requires { &G::read_patterns; })
            static_assert(detail::holds(PatternedGame<G>),
                          "Arvek: patterns must be the pair  std::vector<arvek::Pattern> patterns() const;  void "
                          "read_patterns(const Position&, arvek::Player, std::span<std::uint16_t>) const;");
        if constexpr (
            !requires { typename G::AllInSight; } && requires { &G::suggesters; })
            static_assert(detail::holds(SuggestingGame<G>),
                          "Arvek: suggesters is there but must be  std::span<const arvek::Suggester<MyGame>> "
                          "suggesters() const;  of suggesters that outlive the game");
        if constexpr (
            requires { &G::act_names; } || requires { &G::act; })
            static_assert(detail::holds(ActingGame<G>),
                          "Arvek: acting must be the pair  arvek::ActNames act_names() const;  arvek::Act act(const "
                          "Position&, const Move&) const;");
        if constexpr (requires { &G::offers; })
            static_assert(detail::holds(AnswersAtRunTime<G>),
                          "Arvek: offers is there but must be  bool offers(arvek::Ability) const;");
    }
    return Game<G>;
}

/// The same, and a sentence for a game that is not for two players.
template <class G>
consteval bool game_is_for_two() {
    static_assert(detail::holds(may_be_for_two<G>()),
                  "Arvek: this search is for games of two players, and players() says another number; take MonteCarlo "
                  "or ManyPlayers instead (search/monte_carlo.hpp, search/many_players.hpp)");
    return game_is_complete<G>();
}

/// The same, and a sentence for a game of chance, which no search of this kind can look through.
template <class G>
consteval bool game_can_be_searched() {
    static_assert(detail::holds(!ChanceGame<G> || AnswersAtRunTime<G>),
                  "Arvek: this search does not weigh chance, which the game names with chance_is_next(); take "
                  "Expectation or MonteCarlo instead (search/expectation.hpp, search/monte_carlo.hpp)");
    static_assert(detail::holds(!ViewedGame<G> || AnswersAtRunTime<G>),
                  "Arvek: this search sees the whole position, and players of this game do not, as its view() says; "
                  "take MonteCarlo instead (search/monte_carlo.hpp)");
    return game_is_for_two<G>();
}

/// Throws RulesError where the game lacks the seat of one who is next in its first plies.
template <Game G>
void require_seats(const G& game) {
    constexpr int plies = 4;
    auto position = game.initial_position();
    MoveList<typename G::Move> moves;
    for (int ply = 0; ply < plies && !game.outcome(position) && !chance_is_next(game, position); ++ply) {
        require_seat(game, game.player_to_move(position));
        moves.clear();
        game.generate_moves(position, moves);
        if (moves.empty()) return;
        game.play(position, moves[0]);
    }
}

/// What can only be known at run time of the same. Throws InputError, in which the search is named.
template <Game G>
void require_searchable(const G& game, const char* search) {
    require_game_for_two(game, search);
    require_seats(game);
    if (has_chance(game))
        throw InputError(search, "it does not weigh chance, and this is a game of chance",
                         "expectation, montecarlo, or another game");
    if (has_views(game))
        throw InputError(search, "it sees the whole position, and players of this game do not",
                         "montecarlo, or another game");
}

/// The same for the text ability, which the tool needs.
template <class G>
consteval bool text_is_complete() {
    if constexpr (Game<G>) {
        static_assert(detail::holds(requires(const G& g, const typename G::Position& p) {
                          { g.position_text(p) } -> std::same_as<std::string>;
                      }),
                      "Arvek: the tool needs  std::string position_text(const Position&) const;");
        static_assert(detail::holds(requires(const G& g, std::string_view t) {
                          { g.read_position(t) } -> std::same_as<typename G::Position>;
                      }),
                      "Arvek: the tool needs  Position read_position(std::string_view) const;");
        static_assert(detail::holds(requires(const G& g, const typename G::Position& p, const typename G::Move& m) {
                          { g.move_text(p, m) } -> std::same_as<std::string>;
                      }),
                      "Arvek: the tool needs  std::string move_text(const Position&, const Move&) const;");
    }
    return TextGame<G>;
}

}  // namespace arvek
