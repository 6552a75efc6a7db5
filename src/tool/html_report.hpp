#pragma once
// A report as one page that opens anywhere: everything is inside it, and nothing of it needs a script to be read.
//
//     HtmlReport report("Match on lanterns");
//     report.text("100 games of each two.");
//     report.table("Opponents", {{"opponent"}, {"score", true}}, {{"standard", "74.0 %"}, {"ruled", "26.0 %"}});
//     report.intervals("Scores", {{"standard", 0.74, 0.65, 0.82, "74 %"}}, {0.0, 1.0, 0.6, 0.8});
//     out.write(report.page());
//
// Texts are texts: whatever they hold, none of it is markup. Tables are sorted by a click on a heading.

#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace arvek::tool {

struct ReportColumn {
    std::string name{};
    bool is_number = false;  ///< set to the right, and sorted by the first number of each cell
};

/// A value with its interval.
struct ReportInterval {
    std::string name{};
    double value = 0.0, low = 0.0, high = 0.0;
    std::string shown{};  ///< in words, beside it
};

struct ReportScale {
    double low = 0.0, high = 1.0;
    std::optional<double> band_low{}, band_high{};  ///< a stretch that is marked
    bool is_share = false;                          ///< shown as percent
};

class HtmlReport {
   public:
    explicit HtmlReport(std::string title);

    void heading(const std::string& text);
    void text(const std::string& paragraph);
    /// Lines as they are, in letters of one width.
    void lines(const std::string& text);
    /// Every row has a cell for each column.
    void table(const std::string& caption, const std::vector<ReportColumn>& columns,
               const std::vector<std::vector<std::string>>& rows);
    void intervals(const std::string& caption, const std::vector<ReportInterval>& values, const ReportScale& scale);
    /// A line for each name, over the steps from 0.
    void curves(const std::string& caption, const std::vector<std::pair<std::string, std::vector<double>>>& series);

    /// The whole page.
    std::string page() const;

   private:
    std::string title_, body_;
};

}  // namespace arvek::tool
