{-# LANGUAGE DeriveGeneric #-}
{-# LANGUAGE DuplicateRecordFields #-}
{-# LANGUAGE OverloadedStrings #-}
-- The record types of docs/records-of-fields.md with aeson's generic decoders and encoders, as an application derives them.
module Main (main) where

import Data.Aeson (FromJSON, ToJSON, eitherDecodeStrict, encode)
import qualified Data.ByteString as B
import qualified Data.ByteString.Builder as Builder
import Data.Int (Int32, Int64)
import Data.Text (Text)
import GHC.Float (castDoubleToWord64)
import GHC.Generics (Generic)
import NachklangAdapter (Binding (..), Codec (..), field, message, serveRecords)

newtype OneInt32 = OneInt32 {value :: Int32} deriving (Generic)

newtype OneInt64 = OneInt64 {value :: Int64} deriving (Generic)

newtype OneBinary64 = OneBinary64 {value :: Double} deriving (Generic)

newtype OneBoolean = OneBoolean {value :: Bool} deriving (Generic)

newtype OneText = OneText {value :: Text} deriving (Generic)

newtype OneList = OneList {value :: [Int32]} deriving (Generic)

newtype OneRecord = OneRecord {value :: OneInt32} deriving (Generic)

data Bell = Bell {name :: !Text, weight_kg :: !Int32, hum_hz :: !Double, note :: !(Maybe Text)} deriving (Generic)

instance FromJSON OneInt32

instance ToJSON OneInt32

instance FromJSON OneInt64

instance ToJSON OneInt64

instance FromJSON OneBinary64

instance ToJSON OneBinary64

instance FromJSON OneBoolean

instance ToJSON OneBoolean

instance FromJSON OneText

instance ToJSON OneText

instance FromJSON OneList

instance ToJSON OneList

instance FromJSON OneRecord

instance ToJSON OneRecord

instance FromJSON Bell

instance ToJSON Bell

int :: (Integral number) => number -> Builder.Builder
int number = "int " <> Builder.integerDec (toInteger number) <> "\n"

binary64 :: Double -> Builder.Builder
binary64 number = "binary64 " <> Builder.word64HexFixed (castDoubleToWord64 number) <> "\n"

text :: Text -> Builder.Builder
text held = "str " <> field held <> "\n"

record :: [(Text, Builder.Builder)] -> Builder.Builder
record members = "{\n" <> mconcat ["key " <> field key <> "\n" <> inner | (key, inner) <- members] <> "}\n"

one :: Builder.Builder -> Builder.Builder
one inner = record [("value", inner)]

oneInt32 :: OneInt32 -> Builder.Builder
oneInt32 (OneInt32 held) = one (int held)

bell :: Bell -> Builder.Builder
bell (Bell called weight hum about) =
  record [("name", text called), ("weight_kg", int weight), ("hum_hz", binary64 hum), ("note", maybe "null\n" text about)]

codec :: (FromJSON held, ToJSON held) => (held -> Builder.Builder) -> Maybe Binding
codec = Just . Binding . Codec (either (Left . message) Right . eitherDecodeStrict) encode

binding :: B.ByteString -> Maybe Binding
binding "one-int32" = codec oneInt32
binding "one-int64" = codec (\(OneInt64 held) -> one (int held))
binding "one-binary64" = codec (\(OneBinary64 held) -> one (binary64 held))
binding "one-boolean" = codec (\(OneBoolean held) -> one (if held then "true\n" else "false\n"))
binding "one-text" = codec (\(OneText held) -> one (text held))
binding "one-list" = codec (\(OneList held) -> one ("[\n" <> foldMap int held <> "]\n"))
binding "one-record" = codec (\(OneRecord held) -> one (oneInt32 held))
binding "bell" = codec bell
binding _ = Nothing

main :: IO ()
main = serveRecords "json" "implementation aeson-records 2.0.3.0\nengine aeson\njson bind bind-round-trip\n" binding
