// See relations.hpp. The number of rows is that of implementations: the plain cubic method is quick enough.
#include <nachklang/relations.hpp>

#include <algorithm>
#include <set>

namespace nachklang {
namespace {

/// A part of the tree that no branch holds yet.
struct Cluster {
    std::unique_ptr<RelationNode> node;
    std::vector<std::size_t> rows;
};

using Distances = std::vector<std::vector<double>>;

Distances distances_of(std::span<const AnswerRow> rows) {
    Distances out(rows.size(), std::vector<double>(rows.size(), 0));
    for (std::size_t a = 0; a < rows.size(); ++a)
        for (std::size_t b = 0; b < a; ++b) out[a][b] = out[b][a] = distance_between(rows[a], rows[b]);
    return out;
}

double mean_distance(const Distances& distances, const Cluster& a, const Cluster& b) {
    double sum = 0;
    for (const std::size_t i : a.rows)
        for (const std::size_t k : b.rows) sum += distances[i][k];
    return sum / static_cast<double>(a.rows.size() * b.rows.size());
}

/// How often each answer to a question is given by some rows.
std::map<std::string, std::size_t> answers_to(std::span<const AnswerRow> rows, const std::vector<std::size_t>& side,
                                              const std::string& question) {
    std::map<std::string, std::size_t> out;
    for (const std::size_t row : side)
        if (const auto found = rows[row].questions.find(question); found != rows[row].questions.end())
            ++out[found->second];
    return out;
}

std::string most_frequent(const std::map<std::string, std::size_t>& answers) {
    return std::max_element(answers.begin(), answers.end(),
                            [](const auto& a, const auto& b) { return a.second < b.second; })
        ->first;
}

/// The chance that two rows, one of each side, answer otherwise.
double chance_of_difference(const std::map<std::string, std::size_t>& a,
                            const std::map<std::string, std::size_t>& b) {
    double all_a = 0, all_b = 0, equal = 0;
    for (const auto& [answer, count] : a) all_a += static_cast<double>(count);
    for (const auto& [answer, count] : b) {
        all_b += static_cast<double>(count);
        if (const auto same = a.find(answer); same != a.end()) equal += static_cast<double>(count * same->second);
    }
    return 1 - equal / (all_a * all_b);
}

std::vector<SeparatingQuestion> separating(std::span<const AnswerRow> rows, const Cluster& left,
                                           const Cluster& right) {
    constexpr double telling = 0.5;
    constexpr std::size_t most = 3;
    std::set<std::string> questions;
    for (const std::size_t row : left.rows)
        for (const auto& [question, answer] : rows[row].questions) questions.insert(question);
    std::vector<std::pair<double, SeparatingQuestion>> found;
    for (const std::string& question : questions) {
        const auto of_left = answers_to(rows, left.rows, question),
                   of_right = answers_to(rows, right.rows, question);
        if (of_left.empty() || of_right.empty()) continue;
        const double within =
                         std::max(chance_of_difference(of_left, of_left), chance_of_difference(of_right, of_right)),
                     score = chance_of_difference(of_left, of_right) - within;
        if (score >= telling && most_frequent(of_left) != most_frequent(of_right))
            found.push_back({score, {question, most_frequent(of_left), most_frequent(of_right)}});
    }
    std::stable_sort(found.begin(), found.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    std::vector<SeparatingQuestion> out;
    for (std::size_t i = 0; i < std::min(found.size(), most); ++i) out.push_back(std::move(found[i].second));
    return out;
}

Cluster join(std::span<const AnswerRow> rows, Cluster left, Cluster right, double distance) {
    Cluster out;
    out.node = std::make_unique<RelationNode>();
    out.node->distance = distance;
    out.node->questions = separating(rows, left, right);
    out.rows = left.rows;
    out.rows.insert(out.rows.end(), right.rows.begin(), right.rows.end());
    out.node->left = std::move(left.node);
    out.node->right = std::move(right.node);
    return out;
}

}  // namespace

double distance_between(const AnswerRow& a, const AnswerRow& b) {
    std::size_t both = 0, otherwise = 0;
    for (std::size_t i = 0; i < std::min(a.answers.size(), b.answers.size()); ++i) {
        if (a.answers[i] == 0 || b.answers[i] == 0) continue;
        ++both;
        otherwise += a.answers[i] == b.answers[i] ? 0 : 1;
    }
    return both == 0 ? 1 : static_cast<double>(otherwise) / static_cast<double>(both);
}

std::unique_ptr<RelationNode> relations_of(std::span<const AnswerRow> rows) {
    const Distances distances = distances_of(rows);
    std::vector<Cluster> clusters;
    for (std::size_t i = 0; i < rows.size(); ++i) {
        clusters.push_back({std::make_unique<RelationNode>(), {i}});
        clusters.back().node->row = i;
    }
    while (clusters.size() > 1) {
        std::size_t first = 0, second = 1;
        double nearest = 2;
        for (std::size_t a = 0; a < clusters.size(); ++a)
            for (std::size_t b = a + 1; b < clusters.size(); ++b)
                if (const double d = mean_distance(distances, clusters[a], clusters[b]); d < nearest) {
                    nearest = d;
                    first = a;
                    second = b;
                }
        clusters[first] = join(rows, std::move(clusters[first]), std::move(clusters[second]), nearest);
        clusters.erase(clusters.begin() + static_cast<std::ptrdiff_t>(second));
    }
    return clusters.empty() ? nullptr : std::move(clusters.front().node);
}

}  // namespace nachklang
