{-# LANGUAGE DeriveGeneric #-}
{-# LANGUAGE DuplicateRecordFields #-}
{-# LANGUAGE OverloadedStrings #-}
-- The record types of docs/records-of-fields.md with aeson's generic decoders and encoders, as an application derives them.
module Main (main) where

import Data.Aeson (FromJSON (..), Options (..), SumEncoding (..), ToJSON (..), defaultOptions, eitherDecodeStrict, encode, genericParseJSON, genericToJSON)
import qualified Data.ByteString as B
import qualified Data.ByteString.Builder as Builder
import qualified Data.ByteString.Char8 as C
import Data.Char (toLower)
import Data.Int (Int32, Int64)
import qualified Data.Map as Map
import Data.Text (Text)
import qualified Data.Text as T
import Data.Text.Encoding (decodeUtf8')
import Data.Time.Clock (UTCTime)
import Data.Time.Format.ISO8601 (iso8601Show)
import GHC.Float (castDoubleToWord64, castWord64ToDouble)
import GHC.Generics (Generic)
import NachklangAdapter (Binding (..), Codec (..), field, message, serveRecords)
import Numeric (readHex)

newtype OneInt32 = OneInt32 {value :: Int32} deriving (Generic)

newtype OneInt64 = OneInt64 {value :: Int64} deriving (Generic)

newtype OneBinary64 = OneBinary64 {value :: Double} deriving (Generic)

newtype OneBoolean = OneBoolean {value :: Bool} deriving (Generic)

newtype OneText = OneText {value :: Text} deriving (Generic)

newtype OneList = OneList {value :: [Int32]} deriving (Generic)

newtype OneRecord = OneRecord {value :: OneInt32} deriving (Generic)

data Bell = Bell {name :: !Text, weight_kg :: !Int32, hum_hz :: !Double, note :: !(Maybe Text)} deriving (Generic)

newtype OneInstant = OneInstant {value :: UTCTime} deriving (Generic)

newtype OneMap = OneMap {value :: Map.Map Int32 Int32} deriving (Generic)

instance FromJSON OneMap

instance ToJSON OneMap

-- Of several kinds: a sum type.
data BellOrTower
  = Bell' {name :: !Text, weight_kg :: !Int64, hum_hz :: !Double}
  | Tower' {name :: !Text}
  deriving (Generic)

kinds :: Options
kinds = defaultOptions {sumEncoding = TaggedObject "$type" "contents", constructorTagModifier = map toLower . filter (/= '\'')}

instance FromJSON BellOrTower where
  parseJSON = genericParseJSON kinds

instance ToJSON BellOrTower where
  toJSON = genericToJSON kinds

instance FromJSON OneInstant

instance ToJSON OneInstant

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

instant :: UTCTime -> Builder.Builder
instant time = "native instant " <> field (T.pack (iso8601Show time)) <> "\n"

bellOrTower :: BellOrTower -> Builder.Builder
bellOrTower (Bell' called weight hum) =
  record [("$type", text "bell"), ("name", text called), ("weight_kg", int weight), ("hum_hz", binary64 hum)]
bellOrTower (Tower' called) = record [("$type", text "tower"), ("name", text called)]

-- The lines of the one field's value.
value1 :: [B.ByteString] -> Maybe [B.ByteString]
value1 ("{" : _ : rest) | not (null rest), last rest == "}" = Just (init rest)
value1 _ = Nothing

whole :: (Integral number) => B.ByteString -> Maybe number
whole line = case C.readInteger =<< B.stripPrefix "int " line of
  Just (number, "") -> Just (fromInteger number)
  _ -> Nothing

double :: B.ByteString -> Maybe Double
double line = case B.stripPrefix "binary64 " line of
  Just digits | [(bits, "")] <- readHex (C.unpack digits) -> Just (castWord64ToDouble bits)
  _ -> fromInteger <$> whole line

utf8 :: B.ByteString -> Maybe Text
utf8 line = either (const Nothing) Just . decodeUtf8' . bytes =<< B.stripPrefix "str u8:" line
  where
    bytes digits = B.pack [fst (head (readHex [C.index digits i, C.index digits (i + 1)])) | i <- [0, 2 .. B.length digits - 2]]

boolean :: B.ByteString -> Maybe Bool
boolean line = lookup line [("true", True), ("false", False)]

listed :: [B.ByteString] -> Maybe [Int32]
listed ("[" : rest) | not (null rest), last rest == "]" = mapM whole (init rest)
listed _ = Nothing

-- From the one line of the field's value.
single :: (B.ByteString -> Maybe held) -> [B.ByteString] -> Maybe held
single held fields = case value1 fields of
  Just [line] -> held line
  _ -> Nothing

codec :: (FromJSON held, ToJSON held) => (held -> Builder.Builder) -> ([B.ByteString] -> Maybe held) -> Maybe Binding
codec shown made = Just (Binding (Codec (either (Left . message) Right . eitherDecodeStrict) encode shown) made)

binding :: B.ByteString -> Maybe Binding
binding "one-int32" = codec oneInt32 (single (fmap OneInt32 . whole))
binding "one-int64" = codec (\(OneInt64 held) -> one (int held)) (single (fmap OneInt64 . whole))
binding "one-binary64" = codec (\(OneBinary64 held) -> one (binary64 held)) (single (fmap OneBinary64 . double))
binding "one-boolean" = codec (\(OneBoolean held) -> one (if held then "true\n" else "false\n")) (single (fmap OneBoolean . boolean))
binding "one-text" = codec (\(OneText held) -> one (text held)) (single (fmap OneText . utf8))
binding "one-list" = codec (\(OneList held) -> one ("[\n" <> foldMap int held <> "]\n")) (\fields -> OneList <$> (listed =<< value1 fields))
binding "one-record" = codec (\(OneRecord held) -> one (oneInt32 held)) (\fields -> OneRecord <$> (single (fmap OneInt32 . whole) =<< value1 fields))
binding "one-instant" = codec (\(OneInstant held) -> one (instant held)) (const Nothing)
binding "one-map" = codec (\(OneMap held) -> one ("{\n" <> mconcat ["key " <> int key <> int inner | (key, inner) <- Map.toList held] <> "}\n")) (const Nothing)
binding "bell-or-tower" = codec bellOrTower (const Nothing)
binding "bell" = codec bell (const Nothing)
binding _ = Nothing

main :: IO ()
main = serveRecords "json" "implementation aeson-records 2.0.3.0\nengine aeson\njson bind bind-round-trip bind-encode\n" binding
