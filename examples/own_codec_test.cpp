// Tests a codec of your own in-process, under GoogleTest: one test a case, filterable by name, under your debugger
// and sanitizers:
//
//     own_codec_test --gtest_filter='*numbers*'
//
// The codec here is a small decoder for documents that are one integer or one plain string; it declines the rest.
#include <gtest/gtest.h>

#include <nachklang/corpus.hpp>
#include <nachklang/judge.hpp>

namespace {

using nachklang::adapter::Reply;

class TowerCodec final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        return {.name = "tower-codec", .version = "1.0", .capabilities = {{"json", {"decode"}}}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view document,
                 nachklang::adapter::TraceOut& out) override {
        const std::string_view inside =
            document.size() >= 2 ? document.substr(1, document.size() - 2) : std::string_view{};
        const bool digits = !document.empty() && document.size() < 18 &&
                            document.find_first_not_of("0123456789") == std::string_view::npos &&
                            (document == "0" || document[0] != '0');
        const bool plain = document.size() >= 2 && document.front() == '"' && document.back() == '"' &&
                           inside.find_first_not_of("abcdefghijklmnopqrstuvwxyz ") == std::string_view::npos;
        if (digits)
            out.integer_digits(document);
        else if (plain)
            out.string(inside);
        else
            return Reply::unsupported("not what this codec reads");
        return Reply::accepted();
    }
};

std::vector<nachklang::Case> cases() {
    auto corpus = nachklang::load_corpus(CORPUS_FOLDER);
    if (!corpus.ok()) return {};
    std::vector<nachklang::Case> out = std::move(corpus.value().cases);
    // Others are for encoders, for decoders into records and for several documents in one text.
    std::erase_if(out,
                  [](const nachklang::Case& c) { return !nachklang::is_asked(c, nachklang::Operation::decode); });
    return out;
}

class Conformance : public testing::TestWithParam<nachklang::Case> {};

TEST_P(Conformance, Holds) {
    TowerCodec codec;
    const auto subject = nachklang::handshake(codec);
    const nachklang::Request request{nachklang::Operation::decode, GetParam().format, GetParam().document, true};
    const auto outcome = nachklang::make_in_process_executor(codec)->run({&request, 1}).outcomes.front();
    const auto expectation = nachklang::expectation_of(GetParam(), subject.settings);
    const auto finding =
        nachklang::judge({GetParam(), expectation, subject, nachklang::Operation::decode, outcome});
    if (finding.kind == nachklang::FindingKind::unsupported) GTEST_SKIP() << finding.detail;
    EXPECT_FALSE(finding.failing()) << GetParam() << "\n"
                                    << finding.cause() << ": " << finding.detail << " [" << finding.clause << "]";
}

INSTANTIATE_TEST_SUITE_P(Json, Conformance, testing::ValuesIn(cases()), [](const auto& info) {
    std::string name = info.param.name;
    for (char& c : name)
        if (std::isalnum(static_cast<unsigned char>(c)) == 0) c = '_';
    return name;
});

}  // namespace
