// The calls into GNUstep's Foundation, in plain Objective-C: a program in Objective-C++ that catches one of the library's
// exceptions dies (GCC 12), which is no fault of the library.
#import "gnustep_calls.h"

static NSString* text_of(NSException* exception) {
    return [NSString stringWithFormat:@"%@: %@", [exception name], [exception reason]];
}

id nachklang_decoded(NSData* document, NSString** message, BOOL* threw) {
    NSError* error = nil;
    @try {
        id root = [NSJSONSerialization JSONObjectWithData:document options:NSJSONReadingAllowFragments error:&error];
        if (root == nil) *message = error == nil ? @"nil, and no NSError" : [error localizedDescription];
        return root;
    } @catch (NSException* exception) {
        *message = text_of(exception);
        *threw = YES;
    }
    return nil;
}

NSData* nachklang_encoded(id root, NSString** message, BOOL* threw) {
    NSError* error = nil;
    @try {
        NSData* text = [NSJSONSerialization dataWithJSONObject:root options:0 error:&error];
        if (text == nil) *message = error == nil ? @"nil, and no NSError" : [error localizedDescription];
        return text;
    } @catch (NSException* exception) {
        // NSInvalidArgumentException is documented for what is no JSON object.
        *message = text_of(exception);
        *threw = ![[exception name] isEqualToString:NSInvalidArgumentException];
    }
    return nil;
}

BOOL nachklang_parsed(NSXMLParser* parser, NSString** message, BOOL* threw) {
    @try {
        const BOOL done = [parser parse];
        NSError* error = [parser parserError];
        if (error != nil) *message = [error localizedDescription];
        if (!done && error == nil) *message = @"NO, and no parserError";
        return done;
    } @catch (NSException* exception) {
        *message = text_of(exception);
        *threw = YES;
    }
    return NO;
}
