{-# LANGUAGE ExistentialQuantification #-}
{-# LANGUAGE OverloadedStrings #-}
{-# LANGUAGE RankNTypes #-}
-- The adapter kit for Haskell: serve "json" hello Codec { load, write, printed } (docs/protocol.md). load gives the value or the message of a
-- documented refusal; write gives the document. What these two throw is `threw`, a stack or a heap too small `exhausted`. What printed throws is a
-- fault of the adapter (`adapter-fault`) and never booked on the library. serveRecords "json" hello binding serves record types in the same way.
module NachklangAdapter (Binding (..), Codec (..), field, message, serve, serveRecords) where

import Control.Exception (SomeAsyncException (..), SomeException, asyncExceptionFromException, evaluate, try)
import qualified Data.ByteString as B
import qualified Data.ByteString.Builder as Builder
import qualified Data.ByteString.Char8 as C
import qualified Data.ByteString.Lazy as L
import qualified Data.Text as Text
import qualified Data.Text.Encoding as Text
import GHC.IO.Handle (hDuplicate, hDuplicateTo)
import System.IO

field :: Text.Text -> Builder.Builder
field text = "u8:" <> Builder.byteStringHex (Text.encodeUtf8 text)

message :: String -> L.ByteString
message = L.fromStrict . Text.encodeUtf8 . Text.pack

data Codec value = Codec
  { load :: B.ByteString -> Either L.ByteString value,
    write :: value -> L.ByteString,
    printed :: value -> Builder.Builder
  }

-- A record's codec, and the record of a value in trace notation, a line each; Nothing where the record has no room for it.
data Binding = forall record. Binding (Codec record) ([B.ByteString] -> Maybe record)

type Reply = (B.ByteString, L.ByteString)

-- Replies with what was decoded; the flag says whether the value is wanted.
type Operation value = Codec value -> value -> Bool -> IO Reply

operations :: [(B.ByteString, Operation value)]
operations = [("decode", decode), ("round-trip", roundTrip)]

decode, roundTrip :: Operation value
decode codec value wanted
  | wanted = either faulty accepted <$> try (evaluate (forced (Builder.toLazyByteString (printed codec value))))
  | otherwise = pure (accepted "")
roundTrip codec value _ = either failed accepted <$> try (evaluate (forced (write codec value)))

accepted :: L.ByteString -> Reply
accepted body = ("accepted", body)

failed, faulty :: SomeException -> Reply
failed problem = case asyncExceptionFromException problem of
  Just (SomeAsyncException _) -> ("exhausted", message (show problem)) -- a stack or a heap too small comes that way
  Nothing -> ("threw", message (show problem))
faulty problem = ("adapter-fault", message (show problem))

forced :: L.ByteString -> L.ByteString
forced body = L.length body `seq` body

answer :: Codec value -> Operation value -> B.ByteString -> Bool -> IO Reply
answer codec operation document wanted = do
  loaded <- try (evaluate (either (Left $!) (Right $!) (load codec document)))
  case loaded of
    Left problem -> pure (failed problem)
    Right (Left why) -> pure ("rejected", why)
    Right (Right value) -> operation codec value wanted

-- An operation, the type of its record, its document, and whether the value is wanted. Nothing: not offered.
type Answer = B.ByteString -> B.ByteString -> B.ByteString -> Bool -> Maybe (IO Reply)

-- Decodes and round trips documents of one format; the hello is its lines after the first, each with its line end.
serve :: B.ByteString -> B.ByteString -> Codec value -> IO ()
serve name hello codec = serveAnswers name hello answered
  where
    answered operation _ document wanted = (\asked -> answer codec asked document wanted) <$> lookup operation operations

-- Decodes into records; Nothing for a type that there is not.
serveRecords :: B.ByteString -> B.ByteString -> (B.ByteString -> Maybe Binding) -> IO ()
serveRecords name hello binding = serveAnswers name hello answered
  where
    answered "bind" record document wanted = bound decode document wanted <$> binding record
    answered "bind-round-trip" record document wanted = bound roundTrip document wanted <$> binding record
    answered "bind-encode" record trace _ = filled (C.lines trace) <$> binding record
    answered _ _ _ _ = Nothing
    filled fields (Binding codec made) = maybe (pure ("unsupported", "the record has no room for this")) (\value -> roundTrip codec value True) (made fields)
    bound :: (forall value. Operation value) -> B.ByteString -> Bool -> Binding -> IO Reply
    bound operation document wanted (Binding codec _) = answer codec operation document wanted

serveAnswers :: B.ByteString -> B.ByteString -> Answer -> IO ()
serveAnswers name hello answered = do
  replies <- hDuplicate stdout
  hDuplicateTo stderr stdout
  mapM_ (`hSetBinaryMode` True) [stdin, replies]
  hSetBuffering replies (BlockBuffering Nothing)
  B.hPut replies ("nachklang-adapter 1\n" <> hello <> "\n")
  hFlush replies
  loop replies
  where
    loop replies = do
      ended <- isEOF
      if ended then pure () else reply replies >> loop replies
    reply replies = do
      headLine <- B.hGetLine stdin
      let operation : format : size : keys = C.split ' ' headLine
          pairs = [(key, B.drop 1 value) | word <- keys, let (key, value) = C.break (== '=') word]
          known = format == name && all ((`elem` ["id", "mode", "record", "show"]) . fst) pairs
          record = maybe "" id (lookup "record" pairs)
      document <- B.hGet stdin (maybe 0 fst (C.readInt size))
      (kind, body) <- case answered operation record document (lookup "show" pairs /= Just "nothing") of
        Just asked | known -> asked
        _ -> pure ("unsupported", "")
      B.hPut replies (kind <> " " <> C.pack (show (L.length body)) <> " id=" <> maybe "0" id (lookup "id" pairs) <> "\n")
      L.hPut replies body
      hFlush replies
