// NSJSONSerialization of GNUstep's Foundation.
#include <nachklang/adapter.hpp>

#import "gnustep_calls.h"

namespace {

using namespace nachklang::adapter;

std::u16string units(NSString* text) {
    std::u16string out([text length], u'\0');
    for (std::size_t i = 0; i < out.size(); ++i) out[i] = [text characterAtIndex:i];
    return out;
}

struct Cursor {
    NSArray* array;
    NSDictionary* object;
    NSArray* names;
    NSUInteger index;
    TraceOut* out;

    std::optional<id> next() {
        if (object == nil) {
            if (index == [array count]) return out->close_array(), std::nullopt;
            return [array objectAtIndex:index++];
        }
        if (index == [names count]) return out->close_object(), std::nullopt;
        NSString* name = [names objectAtIndex:index++];
        out->key_utf16(units(name));
        return [object objectForKey:name];
    }
};

std::optional<Cursor> visit(id value, TraceOut& out) {
    if ([value isKindOfClass:[NSArray class]]) {
        out.open_array();
        return Cursor{value, nil, nil, 0, &out};
    }
    if ([value isKindOfClass:[NSDictionary class]]) {
        out.open_object();
        return Cursor{nil, value, [value allKeys], 0, &out};
    }
    if ([value isKindOfClass:[NSString class]]) {
        out.string_utf16(units(value));
    } else if ([value isKindOfClass:[NSNull class]]) {
        out.null();
    } else if (value == [NSNumber numberWithBool:YES] || value == [NSNumber numberWithBool:NO]) {
        out.boolean([value boolValue]);
    } else if ([value objCType][0] == 'd') {
        out.binary64([value doubleValue]);
    } else {
        out.integer([value longLongValue]);
    }
    return std::nullopt;
}

class Gnustep final : public Codec {
  public:
    [[nodiscard]] Description describe() const override {
        return {.name = "gnustep",
                .version = NACHKLANG_GNUSTEP_VERSION,
                .capabilities = {{"json", {"decode", "round-trip"}}},
                .cannot_represent = {"order", "duplicates"}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) override {
        return parse(document, [&](id root) {
            if (out.wanted()) walk<id>(root, [&](id value) { return visit(value, out); });
            return Reply::accepted();
        });
    }
    Reply round_trip(std::string_view, std::string_view, std::string_view document) override {
        return parse(document, [](id root) {
            NSString* message = nil;
            BOOL threw = NO;
            NSData* text = nachklang_encoded(root, &message, &threw);
            if (text == nil) return failed(message, threw);
            return Reply::accepted({static_cast<const char*>([text bytes]), [text length]});
        });
    }

  private:
    static Reply failed(NSString* message, BOOL threw) {
        const std::string text = message == nil ? "" : [message UTF8String];
        return threw ? Reply::threw(text) : Reply::rejected(text);
    }
    template <class Then>
    static Reply parse(std::string_view document, Then then) {
        NSAutoreleasePool* pool = [NSAutoreleasePool new];
        NSData* data = [NSData dataWithBytes:document.data() length:document.size()];
        NSString* message = nil;
        BOOL threw = NO;
        const id root = nachklang_decoded(data, &message, &threw);
        Reply reply = root != nil ? then(root) : failed(message, threw);
        [pool drain];
        return reply;
    }
};

}  // namespace

int main() {
    NSAutoreleasePool* pool = [NSAutoreleasePool new];
    Gnustep codec;
    const int status = serve(codec);
    [pool drain];
    return status;
}
