{-# LANGUAGE OverloadedStrings #-}
-- aeson's Value: numbers as coefficient and exponent, objects as maps.
module Main (main) where

import Data.Aeson (Value (..), eitherDecodeStrict, encode)
import qualified Data.Aeson.Key as Key
import qualified Data.Aeson.KeyMap as KeyMap
import qualified Data.ByteString.Builder as Builder
import Data.Foldable (toList)
import qualified Data.Scientific as Scientific
import NachklangAdapter (Codec (..), field, message, serve)

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

main :: IO ()
main = serve "json" "implementation aeson 2.0.3.0\njson decode round-trip\ncannot-represent order duplicates number-kind\n"
  Codec
    { load = either (Left . message) Right . eitherDecodeStrict,
      write = encode,
      printed = \value -> walk [Walk value]
    }
