(* Yojson's Safe, Basic and Raw values; the first argument names which. *)

open Nachklang_adapter

type held =
  | Scalar of string
  | Array of held Lazy.t list
  | Object of (string * held Lazy.t) list

type todo = Line of string | Walk of held

(* A list of what is still to be printed takes the place of recursion. *)
let rec walk out = function
  | [] -> ()
  | Line line :: rest ->
      Buffer.add_string out line;
      Buffer.add_char out '\n';
      walk out rest
  | Walk (Scalar line) :: rest -> walk out (Line line :: rest)
  | Walk (Array values) :: rest ->
      let inside = List.rev_map (fun v -> Walk (Lazy.force v)) values in
      walk out (Line "[" :: List.rev_append inside (Line "]" :: rest))
  | Walk (Object members) :: rest ->
      let inside = List.fold_left (fun acc (name, v) -> Walk (Lazy.force v) :: Line ("key " ^ field name) :: acc) [] members in
      walk out (Line "{" :: List.rev_append inside (Line "}" :: rest))

(* A NaN has many forms of bits: it is printed as one. *)
let binary64 value =
  if Float.is_nan value then Scalar "binary64 7ff8000000000000"
  else Scalar (Printf.sprintf "binary64 %016Lx" (Int64.bits_of_float value))

let scalar_bool value = Scalar (if value then "true" else "false")

let rec of_safe (value : Yojson.Safe.t) =
  match value with
  | `Null -> Scalar "null"
  | `Bool value -> scalar_bool value
  | `Int value -> Scalar ("int " ^ string_of_int value)
  | `Intlit digits -> Scalar ("int " ^ digits)
  | `Float value -> binary64 value
  | `String text -> Scalar ("str " ^ field text)
  | `List values | `Tuple values -> Array (List.map (fun v -> lazy (of_safe v)) values)
  | `Assoc members -> Object (List.map (fun (name, v) -> (name, lazy (of_safe v))) members)
  | `Variant (name, _) -> Scalar ("native variant " ^ field name)

let rec of_basic (value : Yojson.Basic.t) =
  match value with
  | `Null -> Scalar "null"
  | `Bool value -> scalar_bool value
  | `Int value -> Scalar ("int " ^ string_of_int value)
  | `Float value -> binary64 value
  | `String text -> Scalar ("str " ^ field text)
  | `List values -> Array (List.map (fun v -> lazy (of_basic v)) values)
  | `Assoc members -> Object (List.map (fun (name, v) -> (name, lazy (of_basic v))) members)

let documented = function Yojson.Json_error message -> Some (message, "") | _ -> None
let called call text = library ~documented (fun () -> call text)
let parsed text = called Yojson.Safe.from_string text

let safe =
  ((fun text -> of_safe (parsed text)), fun text -> called (fun value -> Yojson.Safe.to_string value) (parsed text))

let basic =
  let parsed text = called Yojson.Basic.from_string text in
  ((fun text -> of_basic (parsed text)), fun text -> called (fun value -> Yojson.Basic.to_string value) (parsed text))

(* The same with output held to the standard: NaN and the infinities are refused. *)
let standard =
  ((fun text -> of_safe (parsed text)), fun text -> called (fun value -> Yojson.Safe.to_string ~std:true value) (parsed text))

let codec_of = function "basic" -> basic | "standard" -> standard | _ -> safe

let decode document mode wanted =
  let value = fst (codec_of mode) document in
  let out = Buffer.create 64 in
  if wanted then walk out [ Walk value ];
  ("accepted", Buffer.contents out, "")

let round_trip document mode _ = ("accepted", snd (codec_of mode) document, "")

let () =
  serve ~format:"json" ~hello:"implementation yojson 2.0.2\njson decode round-trip\nmode safe\nmode basic\nmode standard\n"
    [ ("decode", decode); ("round-trip", round_trip) ]
