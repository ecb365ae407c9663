// The calls into GNUstep's Foundation that may throw; see gnustep_calls.m. `threw` is set for an exception that the library
// does not document.
#import <Foundation/Foundation.h>

#ifdef __cplusplus
extern "C" {
#endif
/// The decoded value, or nil and a message.
id nachklang_decoded(NSData* document, NSString** message, BOOL* threw);
/// The written text, or nil and a message.
NSData* nachklang_encoded(id root, NSString** message, BOOL* threw);
/// What -parse returns; a message if the parser has an error, whatever it returned.
BOOL nachklang_parsed(NSXMLParser* parser, NSString** message, BOOL* threw);
#ifdef __cplusplus
}
#endif
