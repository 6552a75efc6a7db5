#pragma once
// HintTrust: whether the game's ordering hint or what the search has learned finds the move that cuts off sooner. Each
// leads the order where it is the better of the two; now and then the other is tried, so that this can change.
//
// On the last ply the hint is not asked at all: there it costs about as much as the leaves that it would spare.

#include <array>
#include <cstddef>
#include <cstdint>

namespace arvek::detail {

class HintTrust {
   public:
    enum Leader : std::uint8_t { Hint, Learned };

    /// Whether a hint is worth its time with so many plies left.
    static bool is_for(int depth) { return depth >= least_depth; }

    /// By which the next position, with so many plies left, is to be ordered. The other of the two is only tried near
    /// the leaves, where a bad order costs little: often at first, later now and then.
    Leader next_leader(int depth) {
        const Leader better = leader();
        const bool settled = records_[Hint].cutoffs >= enough && records_[Learned].cutoffs >= enough;
        if (depth > deepest_try || ++asked_ % (settled ? asked_between_tries : 2) != 0) return better;
        return better == Hint ? Learned : Hint;
    }

    /// A position with so many plies left that was ordered so was cut off by the move at `place`, from 0. What is not
    /// near the leaves does not count, since only one of the two is tried there.
    void note_cutoff(Leader by, int depth, std::size_t place) {
        if (depth > deepest_try) return;
        Record& record = records_[by];
        record.tries += static_cast<double>(place + 1);
        record.cutoffs += 1;
        if (record.cutoffs < remembered) return;
        record.tries /= 2;
        record.cutoffs /= 2;
    }

    Leader leader() const {
        if (records_[Hint].cutoffs < enough || records_[Learned].cutoffs < enough) return Hint;
        return mean_tries(Learned) < mean_tries(Hint) ? Learned : Hint;
    }

    /// How many moves were tried until one cut off, in the mean; 0 where too little is known.
    double mean_tries(Leader by) const {
        const Record& record = records_[by];
        return record.cutoffs < enough ? 0.0 : record.tries / record.cutoffs;
    }

    void forget() { *this = HintTrust(); }

   private:
    struct Record {
        double tries = 0.0;
        double cutoffs = 0.0;
    };
    static constexpr int least_depth = 2, deepest_try = 3;
    static constexpr std::uint32_t asked_between_tries = 64;
    static constexpr double enough = 16.0, remembered = 4'096.0;

    std::array<Record, 2> records_{};
    std::uint32_t asked_ = 0;
};

}  // namespace arvek::detail
