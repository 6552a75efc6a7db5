#include "noted_game.hpp"

#include <memory>
#include <string>
#include <utility>

namespace arvek::detail {

namespace {

class NotedModel final : public GameModel {
   public:
    NotedModel(std::shared_ptr<const GameModel> model, CallNote& note) : model_(std::move(model)), note_(note) {
        quantities = model_->quantities;
        suggesters = model_->suggesters;
    }

    bool offers(Ability ability) const override { return model_->offers(ability); }
    const void* game() const override { return model_->game(); }
    std::shared_ptr<const GameModel> another() const override { return model_->another(); }
    AnyPosition initial_position() const override {
        note_of("initial_position");
        return model_->initial_position();
    }
    Player player_to_move(const AnyPosition& position) const override {
        note_of("player_to_move");
        return model_->player_to_move(position);
    }
    void generate_moves(const AnyPosition& position, MoveList<AnyMove>& moves) const override {
        note_of("generate_moves");
        model_->generate_moves(position, moves);
    }
    void play(AnyPosition& position, const AnyMove& move) const override {
        note_of("play");
        model_->play(position, move);
    }
    std::optional<Outcome> outcome(const AnyPosition& position) const override {
        note_of("outcome");
        return model_->outcome(position);
    }
    int players() const override {
        note_of("players");
        return model_->players();
    }
    Score evaluate(const AnyPosition& position, Player player) const override {
        note_of("evaluate");
        return model_->evaluate(position, player);
    }
    std::uint64_t hash(const AnyPosition& position) const override {
        note_of("hash");
        return model_->hash(position);
    }
    std::uint64_t equivalence_hash(const AnyPosition& position) const override {
        note_of("equivalence_hash");
        return model_->equivalence_hash(position);
    }
    std::shared_ptr<void> play_reversibly(AnyPosition& position, const AnyMove& move) const override {
        note_of("play_reversibly");
        return model_->play_reversibly(position, move);
    }
    void take_back(AnyPosition& position, const AnyMove& move, const void* undo) const override {
        note_of("take_back");
        model_->take_back(position, move, undo);
    }
    int order_hint(const AnyPosition& position, const AnyMove& move) const override {
        note_of("order_hint");
        return model_->order_hint(position, move);
    }
    void generate_forcing_moves(const AnyPosition& position, MoveList<AnyMove>& moves) const override {
        note_of("generate_forcing_moves");
        model_->generate_forcing_moves(position, moves);
    }
    void generate_quiet_moves(const AnyPosition& position, MoveList<AnyMove>& moves) const override {
        note_of("generate_quiet_moves");
        model_->generate_quiet_moves(position, moves);
    }
    int count_moves(const AnyPosition& position) const override {
        note_of("count_moves");
        return model_->count_moves(position);
    }
    std::string coordinates(const AnyPosition& position, const AnyMove& move) const override {
        note_of("coordinates");
        return model_->coordinates(position, move);
    }
    void play_nothing(AnyPosition& position) const override {
        note_of("play_nothing");
        model_->play_nothing(position);
    }
    bool nothing_is_sound(const AnyPosition& position) const override {
        note_of("nothing_is_sound");
        return model_->nothing_is_sound(position);
    }
    int draw_at_occurrence() const override {
        note_of("draw_at_occurrence");
        return model_->draw_at_occurrence();
    }
    std::uint64_t repetition_key(const AnyPosition& position) const override {
        note_of("repetition_key");
        return model_->repetition_key(position);
    }
    Payoff most_payoff() const override {
        note_of("most_payoff");
        return model_->most_payoff();
    }
    PayoffBounds payoff_bounds(const AnyPosition& position, Player player) const override {
        note_of("payoff_bounds");
        return model_->payoff_bounds(position, player);
    }
    void generate_sufficient_moves(const AnyPosition& position, MoveList<AnyMove>& moves) const override {
        note_of("generate_sufficient_moves");
        model_->generate_sufficient_moves(position, moves);
    }
    void visit_moves(const AnyPosition& position, const MoveVisitor& visitor) const override {
        note_of("visit_moves");
        model_->visit_moves(position, visitor);
    }
    bool chance_is_next(const AnyPosition& position) const override {
        note_of("chance_is_next");
        return model_->chance_is_next(position);
    }
    void generate_events(const AnyPosition& position, MoveList<Event<AnyMove>>& events) const override {
        note_of("generate_events");
        model_->generate_events(position, events);
    }
    AnyMove draw_event(const AnyPosition& position, Random& random) const override {
        note_of("draw_event");
        return model_->draw_event(position, random);
    }
    AnyView view(const AnyPosition& position, Player player) const override {
        note_of("view");
        return model_->view(position, player);
    }
    AnyPosition sample(const AnyView& view_seen, Random& random) const override {
        note_of("sample");
        return model_->sample(view_seen, random);
    }
    std::string view_text(const AnyView& view_seen) const override {
        note_of("view_text");
        return model_->view_text(view_seen);
    }
    AnyMove random_move(const AnyPosition& position, Random& random) const override {
        note_of("random_move");
        return model_->random_move(position, random);
    }
    Outcome play_out(AnyPosition& position, Random& random) const override {
        note_of("play_out");
        return model_->play_out(position, random);
    }
    double units_per_doubling() const override {
        note_of("units_per_doubling");
        return model_->units_per_doubling();
    }
    std::string position_text(const AnyPosition& position) const override {
        note_of("position_text");
        return model_->position_text(position);
    }
    AnyPosition read_position(std::string_view text) const override {
        note_of("read_position");
        return model_->read_position(text);
    }
    std::string move_text(const AnyPosition& position, const AnyMove& move) const override {
        note_of("move_text");
        return model_->move_text(position, move);
    }
    AnyMove read_move(const AnyPosition& position, std::string_view text) const override {
        note_of("read_move");
        return model_->read_move(position, text);
    }
    std::string drawing(const AnyPosition& position) const override {
        note_of("drawing");
        return model_->drawing(position);
    }
    Board board(const AnyPosition& position, Player viewer) const override {
        note_of("board");
        return model_->board(position, viewer);
    }
    std::string player_name(Player player) const override {
        note_of("player_name");
        return model_->player_name(player);
    }
    double salience(const AnyPosition& position, const AnyMove& move) const override {
        note_of("salience");
        return model_->salience(position, move);
    }
    LevelChange level_change(int level) const override {
        note_of("level_change");
        return model_->level_change(level);
    }
    int preference(const AnyPosition& position, const AnyMove& move) const override {
        note_of("preference");
        return model_->preference(position, move);
    }
    double quantity(int place, const AnyPosition& position, const AnyMove& move) const override {
        note_of(model_->quantities[static_cast<std::size_t>(place)].name);
        return model_->quantity(place, position, move);
    }
    void suggest(int place, const AnyPosition& position, Proposals<AnyMove>& proposals) const override {
        note_of(model_->suggesters[static_cast<std::size_t>(place)].reason);
        model_->suggest(place, position, proposals);
    }
    std::vector<Pattern> patterns() const override {
        note_of("patterns");
        return model_->patterns();
    }
    void read_patterns(const AnyPosition& position, Player player, std::span<std::uint16_t> ways) const override {
        note_of("read_patterns");
        model_->read_patterns(position, player, ways);
    }
    ActNames act_names() const override {
        note_of("act_names");
        return model_->act_names();
    }
    Act act(const AnyPosition& position, const AnyMove& move) const override {
        note_of("act");
        return model_->act(position, move);
    }
    std::uint64_t move_key(const AnyPosition& position, const AnyMove& move, std::size_t place) const override {
        return model_->move_key(position, move, place);
    }

   private:
    void note_of(const char* function) const {
        note_.function.store(function, std::memory_order_relaxed);
        note_.calls.fetch_add(1, std::memory_order_relaxed);
    }

    std::shared_ptr<const GameModel> model_;
    CallNote& note_;
};

}  // namespace

AnyGame noted_game(const AnyGame& game, CallNote& note) {
    return AnyGame(std::make_shared<const NotedModel>(game.shared_model(), note));
}

}  // namespace arvek::detail
