// NSXMLParser of GNUstep's Foundation, whose attributes come without their order. Nothing outside a document is
// asked for.
#include <nachklang/adapter.hpp>

#import "gnustep_calls.h"

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;

namespace {

std::string bytes_of(NSString* text) {
    return text == nil ? "" : [text UTF8String];
}

struct EventPrinter {
    TraceOut& out;
    bool expanded;
    std::string text{};                                         // of a text so far
    std::vector<std::pair<std::string, std::string>> spaces{};  // declared before the element that declares them
    std::size_t open = 0;

    void flush() {
        if (!text.empty()) out.text(text);
        text.clear();
    }
};

}  // namespace

/// What the parser tells, as trace items.
@interface Teller : NSObject {
  @public
    EventPrinter* events;  // an instance has no C++ members of its own
}
@end

@implementation Teller

- (void)parser:(NSXMLParser*)parser didStartMappingPrefix:(NSString*)prefix toURI:(NSString*)uri {
    events->spaces.emplace_back(bytes_of(prefix), bytes_of(uri));
}

- (void)parser:(NSXMLParser*)parser
    didStartElement:(NSString*)name
       namespaceURI:(NSString*)uri
      qualifiedName:(NSString*)qualified
         attributes:(NSDictionary*)attributes {
    events->flush();
    const std::string written = bytes_of(qualified == nil ? name : qualified);
    if (events->expanded)
        events->out.element(written, bytes_of(name), bytes_of(uri));
    else
        events->out.element(written, std::nullopt, std::nullopt);
    for (const auto& [prefix, space] : events->spaces) events->out.declaration(prefix, space);
    events->spaces.clear();
    ++events->open;
    NSEnumerator* keys = [attributes keyEnumerator];
    while (NSString* key = [keys nextObject])
        events->out.attribute(bytes_of(key), std::nullopt, std::nullopt, bytes_of([attributes objectForKey:key]),
                            "-");
}
- (void)parser:(NSXMLParser*)parser
    didEndElement:(NSString*)name
     namespaceURI:(NSString*)uri
    qualifiedName:(NSString*)qualified {
    events->flush();
    events->out.element_end();
    --events->open;
}
- (void)parser:(NSXMLParser*)parser foundCharacters:(NSString*)characters {
    events->text += bytes_of(characters);
}
- (void)parser:(NSXMLParser*)parser foundIgnorableWhitespace:(NSString*)characters {
    events->text += bytes_of(characters);
}
- (void)parser:(NSXMLParser*)parser foundCDATA:(NSData*)block {
    events->flush();
    events->out.cdata({static_cast<const char*>([block bytes]), [block length]});
}
- (void)parser:(NSXMLParser*)parser foundComment:(NSString*)comment {
    events->flush();
    events->out.comment(bytes_of(comment));
}
- (void)parser:(NSXMLParser*)parser foundProcessingInstructionWithTarget:(NSString*)target data:(NSString*)data {
    events->flush();
    events->out.instruction(bytes_of(target), bytes_of(data));
}

@end

namespace {

class GnustepXml final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        return {
            .name = "gnustep-xml",
            .version = NACHKLANG_GNUSTEP_VERSION,
            .engine = "libxml2",
            .capabilities = {{"xml", {"decode"}}},
            .cannot_represent = {"doctype", "doctype-content", "order"},
            .settings = {{"external", "none"}},
            .modes = {{.name = "namespaces", .settings = {{"namespaces", "on"}}},
                      {.name = "plain", .cannot_represent = {"namespaces"}, .settings = {{"namespaces", "off"}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view document, TraceOut& out) override {
        NSAutoreleasePool* pool = [NSAutoreleasePool new];
        NSData* data = [NSData dataWithBytes:document.data() length:document.size()];
        NSXMLParser* parser = [[NSXMLParser alloc] initWithData:data];
        Teller* teller = [Teller new];
        EventPrinter events{out, mode == "namespaces"};
        teller->events = &events;
        [parser setDelegate:teller];
        [parser setShouldProcessNamespaces:events.expanded];
        [parser setShouldReportNamespacePrefixes:events.expanded];
        NSString* message = nil;
        BOOL threw = NO;
        Reply reply = Reply::accepted();
        if (nachklang_parsed(parser, &message, &threw)) {
            // An undeclared prefix sets parserError, and YES is returned all the same.
            if (message != nil) reply.and_reported(bytes_of(message));
            // It may return YES in the middle of a document: then that is all its user has.
            events.flush();
            for (; events.open > 0; --events.open) out.element_end();
        } else if (threw) {
            reply = Reply::threw(bytes_of(message));
        } else {
            reply = Reply::rejected(bytes_of(message))
                        .at_line(static_cast<std::uint64_t>([parser lineNumber]))
                        .at_column(static_cast<std::uint64_t>([parser columnNumber]));
        }
        [parser release];
        [teller release];
        [pool drain];
        return reply;
    }
};

}  // namespace

int main() {
    NSAutoreleasePool* pool = [NSAutoreleasePool new];
    GnustepXml codec;
    const int status = nachklang::adapter::serve(codec);
    [pool drain];
    return status;
}
