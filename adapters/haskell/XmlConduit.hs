{-# LANGUAGE OverloadedStrings #-}
-- xml-conduit's tree: attributes are a map, CDATA joins text. The serve loop is that of Aeson.hs with another answer.
module Main (main) where

import Control.Exception (SomeAsyncException (..), SomeException, asyncExceptionFromException, evaluate, try)
import qualified Data.ByteString as B
import qualified Data.ByteString.Builder as Builder
import qualified Data.ByteString.Char8 as C
import qualified Data.ByteString.Lazy as L
import qualified Data.Map as Map
import qualified Data.Text as Text
import qualified Data.Text.Encoding as Text
import GHC.IO.Handle (hDuplicate, hDuplicateTo)
import System.IO
import Text.XML

field :: Text.Text -> Builder.Builder
field text = "u8:" <> Builder.byteStringHex (Text.encodeUtf8 text)

maybeField :: Maybe Text.Text -> Builder.Builder
maybeField = maybe "u8:" field

name :: Name -> Builder.Builder
name of' = qualified <> " " <> field (nameLocalName of') <> " " <> maybeField (nameNamespace of')
  where
    qualified = case namePrefix of' of
      Just prefix -> field (prefix <> ":" <> nameLocalName of')
      Nothing -> field (nameLocalName of')

data Step = Open Node | End

-- A list of what is still to be printed takes the place of recursion.
walk :: [Step] -> Builder.Builder
walk [] = mempty
walk (End : rest) = "end\n" <> walk rest
walk (Open node : rest) = case node of
  NodeElement (Element tag attributes inside) ->
    "elem " <> name tag <> "\n" <> foldMap attribute (Map.toList attributes) <> walk (map Open inside ++ End : rest)
  NodeContent text -> "text " <> field text <> "\n" <> walk rest
  NodeComment text -> "comment " <> field text <> "\n" <> walk rest
  NodeInstruction instruction' -> told instruction' <> walk rest

attribute :: (Name, Text.Text) -> Builder.Builder
attribute (key, value) = "attr " <> name key <> " " <> field value <> " -\n"

told :: Instruction -> Builder.Builder
told (Instruction target text) = "pi " <> field target <> " " <> field text <> "\n"

beside :: Miscellaneous -> Builder.Builder
beside (MiscInstruction instruction') = told instruction'
beside (MiscComment text) = "comment " <> field text <> "\n"

answer :: B.ByteString -> B.ByteString -> Bool -> (B.ByteString, L.ByteString)
answer operation document wanted = case parseLBS def (L.fromStrict document) of
  Left problem -> ("rejected", L.fromStrict (Text.encodeUtf8 (Text.pack (show problem))))
  Right parsed@(Document before root after)
    | operation == "lap" -> ("accepted", renderLBS def parsed)
    | wanted ->
        ( "accepted",
          Builder.toLazyByteString
            (foldMap beside (prologueBefore before ++ prologueAfter before) <> walk [Open (NodeElement root)] <> foldMap beside after)
        )
    | otherwise -> parsed `seq` ("accepted", "")

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
          known = format == "xml" && operation `elem` ["decode", "lap"] && all ((`elem` ["id", "mode", "show"]) . fst) pairs
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
  B.hPut replies "nachklang-adapter 1\nimplementation xml-conduit 1.9.1.1\nxml decode lap\nlacks order duplicates cdata doctype declarations\nsetting namespaces=on\n\n"
  hFlush replies
  serve replies
