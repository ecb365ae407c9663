{-# LANGUAGE OverloadedStrings #-}
-- The adapter kit for Haskell: serve "json" hello answer, where answer operation document wanted is a kind and its bytes (docs/protocol.md). What it
-- throws is reported as `threw`; a stack or a heap too small as `exhausted`.
module NachklangAdapter (field, message, serve) where

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

type Answer = B.ByteString -> B.ByteString -> Bool -> (B.ByteString, L.ByteString)

guarded :: (B.ByteString, L.ByteString) -> IO (B.ByteString, L.ByteString)
guarded result = do
  tried <- try (evaluate (forced result))
  pure $ case tried of
    Right whole -> whole
    Left problem -> (kindOf problem, message (show (problem :: SomeException)))
  where
    forced (kind, body) = L.length body `seq` (kind, body)
    kindOf problem = case asyncExceptionFromException problem of
      Just (SomeAsyncException _) -> "exhausted" -- a stack or a heap too small comes that way
      Nothing -> "threw"

-- Decodes and round trips documents of one format; the hello is its lines after the first, each with its line end.
serve :: B.ByteString -> B.ByteString -> Answer -> IO ()
serve name hello answer = do
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
          known = format == name && operation `elem` ["decode", "round-trip"] && all ((`elem` ["id", "mode", "show"]) . fst) pairs
      document <- B.hGet stdin (maybe 0 fst (C.readInt size))
      (kind, body) <- if known then guarded (answer operation document (lookup "show" pairs /= Just "nothing")) else pure ("unsupported", "")
      B.hPut replies (kind <> " " <> C.pack (show (L.length body)) <> " id=" <> maybe "0" id (lookup "id" pairs) <> "\n")
      L.hPut replies body
      hFlush replies
