// The behaviours of a run: what each implementation does wrong, when, and who else does it.
#pragma once

#include <string>
#include <utility>
#include <vector>

#include <nachklang/behaviour.hpp>

#include "ui/terminal.hpp"

namespace tool {

/// One implementation after another, each one's gravest behaviour first. Of a few implementations everything is
/// shown; of many the gravest of each.
void print_behaviours(const std::vector<nachklang::Behaviour>& behaviours, Colour colour);

/// An open question of a format: two formats may have one of the same name.
using AskedQuestion = std::pair<const nachklang::Format*, std::string>;
/// The questions that were answered, in the order of the answers.
std::vector<AskedQuestion> questions_in(const std::vector<nachklang::AnswerGiven>& answers);
/// One line on such a question and its clause; empty: none is at hand.
std::string about_question(const std::vector<nachklang::AnswerGiven>& answers, const AskedQuestion& asked);

/// The answers of one implementation and mode, a line a question.
void print_open_answers(const std::vector<nachklang::AnswerGiven>& answers, const std::string& subject,
                        Colour colour);
/// Each open question, with what is answered to it and by which subjects, the most frequent answer first.
void print_questions(const std::vector<nachklang::AnswerGiven>& answers, Colour colour);

/// An implementation's answer to a question in a few words: "first", "refused if the document nests 513 or more
/// levels, else accepted"; empty if it was not asked.
std::string crisp_answer(const std::vector<nachklang::AnswerGiven>& answers, const std::string& subject,
                         const AskedQuestion& question);

}  // namespace tool
