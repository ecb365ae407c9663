// `demo`: the whole, on the bell register.
#include <fmt/format.h>

#include <filesystem>

#include "commands/commands.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

int demo(const Common& common) {
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return report(workspace.problem());
    const Style style = Style::of_stdout(common.colour);
    const std::string& data = workspace.value().data_folder;
    const auto step = [&](const std::string& words, const std::string& command) {
        fmt::print("\n{}\n{}\n\n", style.bold("── " + words + " ──"), style.faint("$ " + command));
        std::fflush(stdout);
    };
    step("The reference reader shows where a document is malformed", "nachklang read demo/broken-page.json");
    read(common, {data + "/demo/broken-page.json", "tree", false});

    step("One document through every implementation: decoded values and written texts",
         "nachklang try demo/tuning-note.json");
    try_documents(common, {{data + "/demo/tuning-note.json"}, {}});

    // A few quick implementations: all of them on whole corpora take many minutes.
    const std::vector<std::string> few{"nlohmann/sorted",     "rapidjson/default", "simdjson",      "boost-json",
                                       "python-json/default", "node-json/compact", "seeded-faults", "expat",
                                       "python-elementtree"};
    Common some = common;
    for (const Implementation& here : workspace.value().found)
        for (const std::string& name : few)
            if (name.substr(0, name.find('/')) == here.name) some.implementations.push_back(name);
    const std::string store = "nachklang-demo/nachklang.db", page = "nachklang-demo/page.html";
    std::vector<std::string> corpora;
    for (const Format* format : formats()) corpora.push_back(data + "/corpora/" + std::string(format->name()));
    corpora.push_back(data + "/demo");
    step("The shipped corpora and the register through a few implementations",
         fmt::format("nachklang run corpora/json corpora/xml demo --store {} --implementation {}", store,
                     fmt::join(some.implementations, " --implementation ")));
    std::error_code exists;
    std::filesystem::create_directories(std::filesystem::path(store).parent_path(), exists);
    RunOptions options;
    options.corpora = corpora;
    options.store = store;
    options.command = "nachklang demo";
    const int status = run(some, options);
    if (status == exit_usage || status == exit_internal) return status;

    step("The run as a page for a browser", fmt::format("nachklang report {} --page {}", store, page));
    ReportOptions forms;
    forms.results = store;
    forms.page = page;
    forms.corpora = corpora;
    if (const int written = report_run(common, forms); written != exit_success) return written;
    fmt::print("open {} in a browser\n", page);

    Common two = common;
    two.implementations = {"rapidjson/*"};
    step("The smallest document on which two modes of one library disagree",
         "nachklang shrink demo/ledger.json --implementation 'rapidjson/*'");
    shrink_document(two, {data + "/demo/ledger.json", "", 4000, "value"});
    return exit_success;
}

}  // namespace tool
