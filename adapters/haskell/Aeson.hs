{-# LANGUAGE OverloadedStrings #-}
-- aeson's Value: numbers as coefficient and exponent, objects as maps.
module Main (main) where

import Control.Exception (SomeAsyncException (..), SomeException, asyncExceptionFromException, evaluate, try)
import Data.Aeson (Value (..), eitherDecodeStrict, encode)
import qualified Data.Aeson.Key as Key
import qualified Data.Aeson.KeyMap as KeyMap
import qualified Data.ByteString as B
import qualified Data.ByteString.Builder as Builder
import qualified Data.ByteString.Char8 as C
import qualified Data.ByteString.Lazy as L
import Data.Foldable (toList)
import qualified Data.Scientific as Scientific
import qualified Data.Text as Text
import qualified Data.Text.Encoding as Text
import GHC.IO.Handle (hDuplicate, hDuplicateTo)
import System.IO

field :: Text.Text -> Builder.Builder
field text = "u8:" <> mconcat (map Builder.word8HexFixed (B.unpack (Text.encodeUtf8 text)))

data Todo = Line Builder.Builder | Walk Value

-- A list of what is still to be printed takes the place of recursion.
walk :: [Todo] -> Builder.Builder
walk [] = mempty
walk (Line line : rest) = line <> "\n" <> walk rest
walk (Walk value : rest) = case value of
  Null -> walk (Line "null" : rest)
  Bool True -> walk (Line "true" : rest)
  Bool False -> walk (Line "false" : rest)
  String text -> walk (Line ("str " <> field text) : rest)
  -- Never expanded: an exponent may be huge.
  Number held ->
    let exponent10 = Scientific.base10Exponent held
        digits = Builder.integerDec (Scientific.coefficient held)
     in walk (Line (if exponent10 == 0 then "int " <> digits else "dec " <> digits <> "e" <> Builder.intDec exponent10) : rest)
  Array values -> walk (Line "[" : map Walk (toList values) ++ Line "]" : rest)
  Object members ->
    walk (Line "{" : concat [[Line ("key " <> field (Key.toText name)), Walk inner] | (name, inner) <- KeyMap.toList members] ++ Line "}" : rest)

answer :: B.ByteString -> B.ByteString -> Bool -> (B.ByteString, L.ByteString)
answer operation document wanted = case eitherDecodeStrict document of
  Left message -> ("rejected", L.fromStrict (Text.encodeUtf8 (Text.pack message)))
  Right value
    | operation == "lap" -> ("accepted", encode (value :: Value))
    | wanted -> ("accepted", Builder.toLazyByteString (walk [Walk value]))
    | otherwise -> value `seq` ("accepted", "")

guarded :: (B.ByteString, L.ByteString) -> IO (B.ByteString, L.ByteString)
guarded result = do
  tried <- try (evaluate (forced result))
  pure $ case tried of
    Right whole -> whole
    Left problem -> (kindOf problem, L.fromStrict (Text.encodeUtf8 (Text.pack (show (problem :: SomeException)))))
  where
    forced (kind, body) = L.length body `seq` (kind, body)
    kindOf problem = case asyncExceptionFromException problem of
      Just (SomeAsyncException _) -> "exhausted" -- a stack or a heap too small comes that way
      Nothing -> "threw"

serve :: Handle -> IO ()
serve replies = do
  ended <- isEOF
  if ended
    then pure ()
    else do
      headLine <- B.hGetLine stdin
      let operation : format : size : keys = C.split ' ' headLine
          pairs = [(key, B.drop 1 value) | word <- keys, let (key, value) = C.break (== '=') word]
          known = format == "json" && operation `elem` ["decode", "lap"] && all ((`elem` ["id", "mode", "show"]) . fst) pairs
      document <- B.hGet stdin (maybe 0 fst (C.readInt size))
      (kind, body) <- if known then guarded (answer operation document (lookup "show" pairs /= Just "nothing")) else pure ("unsupported", "")
      B.hPut replies (kind <> " " <> C.pack (show (L.length body)) <> " id=" <> maybe "0" id (lookup "id" pairs) <> "\n")
      L.hPut replies body
      hFlush replies
      serve replies

main :: IO ()
main = do
  replies <- hDuplicate stdout
  hDuplicateTo stderr stdout
  mapM_ (`hSetBinaryMode` True) [stdin, replies]
  hSetBuffering replies (BlockBuffering Nothing)
  B.hPut replies "nachklang-adapter 1\nimplementation aeson 2.0.3.0\njson decode lap\nlacks order duplicates number-kind\n\n"
  hFlush replies
  serve replies
