#pragma once
// The results of a person, as lines of JSON.

#include <string>
#include <vector>

#include "arvek/opponent/person.hpp"
#include "arvek/session/session.hpp"

namespace arvek::tool {

class PersonFile {
   public:
    /// Reads what is there of the game and the opponent; where there is no such file, it is begun. Throws InputError, with
    /// the line, for what is no result, and where it cannot be written.
    PersonFile(std::string path, const Session& session, const OpponentSpec& opponent);

    const std::vector<PersonGame>& games() const { return games_; }
    const LevelRatings& ratings() const { return ratings_; }
    PersonRating rating() const { return rate_person(games_, ratings_); }
    PersonStrength strength() const { return strength_of(rating(), ratings_); }
    /// Appends a result against a level; it is in the file when this returns. Throws InputError when it cannot be written.
    void add(int level, double result);

   private:
    std::string path_;
    std::string game_, opponent_;
    std::vector<std::pair<std::string, std::string>> settings_;
    LevelRatings ratings_;
    std::vector<PersonGame> games_;
};

}  // namespace arvek::tool
