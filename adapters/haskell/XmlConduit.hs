{-# LANGUAGE OverloadedStrings #-}
-- xml-conduit's tree: attributes are a map, CDATA joins text.
module Main (main) where

import qualified Data.ByteString.Builder as Builder
import qualified Data.ByteString.Lazy as L
import qualified Data.Map as Map
import qualified Data.Text as Text
import NachklangAdapter (Codec (..), field, message, serve)
import Text.XML

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
  NodeInstruction instruction' -> instructionLine instruction' <> walk rest

attribute :: (Name, Text.Text) -> Builder.Builder
attribute (key, value) = "attr " <> name key <> " " <> field value <> " -\n"

instructionLine :: Instruction -> Builder.Builder
instructionLine (Instruction target text) = "pi " <> field target <> " " <> field text <> "\n"

outsideRoot :: Miscellaneous -> Builder.Builder
outsideRoot (MiscInstruction instruction') = instructionLine instruction'
outsideRoot (MiscComment text) = "comment " <> field text <> "\n"

printedDocument :: Document -> Builder.Builder
printedDocument (Document before root after) =
  foldMap outsideRoot (prologueBefore before ++ prologueAfter before) <> walk [Open (NodeElement root)] <> foldMap outsideRoot after

main :: IO ()
main = serve "xml" "implementation xml-conduit 1.9.1.1\nxml decode round-trip\ncannot-represent order duplicates cdata doctype declarations\nsetting namespaces=on\n"
  Codec
    { load = either (Left . message . show) Right . parseLBS def . L.fromStrict,
      write = renderLBS def,
      printed = printedDocument
    }
