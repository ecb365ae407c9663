(* Yojson's Safe, Basic and Raw values; the first argument names which. *)

let replies = Unix.out_channel_of_descr (Unix.dup Unix.stdout)
let () = Unix.dup2 Unix.stderr Unix.stdout

let field text =
  let out = Buffer.create (3 + (2 * String.length text)) in
  Buffer.add_string out "u8:";
  String.iter (fun c -> Buffer.add_string out (Printf.sprintf "%02x" (Char.code c))) text;
  Buffer.contents out

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

let safe =
  ( (fun text -> of_safe (Yojson.Safe.from_string text)),
    fun text -> Yojson.Safe.to_string (Yojson.Safe.from_string text) )

let basic =
  ( (fun text -> of_basic (Yojson.Basic.from_string text)),
    fun text -> Yojson.Basic.to_string (Yojson.Basic.from_string text) )

(* The same with output held to the standard: NaN and the infinities are refused. *)
let standard =
  ( (fun text -> of_safe (Yojson.Safe.from_string text)),
    fun text -> Yojson.Safe.to_string ~std:true (Yojson.Safe.from_string text) )

let codec_of = function "basic" -> basic | "standard" -> standard | _ -> safe

let answer operation document mode wanted =
  let load, lap = codec_of mode in
  match operation with
  | "lap" -> ("accepted", lap document)
  | _ ->
      let value = load document in
      let out = Buffer.create 64 in
      if wanted then walk out [ Walk value ];
      ("accepted", Buffer.contents out)

let asked operation document mode wanted =
  try answer operation document mode wanted with
  | Yojson.Json_error message -> ("rejected", message)
  | Stack_overflow -> ("exhausted", "the stack is too small")
  | Out_of_memory -> ("exhausted", "no memory")
  | problem -> ("threw", Printexc.to_string problem)

let () =
  set_binary_mode_in stdin true;
  set_binary_mode_out replies true;
  output_string replies
    "nachklang-adapter 1\nimplementation yojson 2.0.2\njson decode lap\nmode safe\nmode basic\nmode standard\n\n";
  flush replies;
  try
    while true do
      let words = String.split_on_char ' ' (input_line stdin) in
      let operation = List.nth words 0 and format = List.nth words 1 in
      let document = really_input_string stdin (int_of_string (List.nth words 2)) in
      let keys =
        List.filteri (fun i _ -> i > 2) words
        |> List.map (fun word ->
               let at = String.index word '=' in
               (String.sub word 0 at, String.sub word (at + 1) (String.length word - at - 1)))
      in
      let value key = try List.assoc key keys with Not_found -> "" in
      let known =
        format = "json"
        && List.mem operation [ "decode"; "lap" ]
        && List.for_all (fun (key, _) -> List.mem key [ "id"; "mode"; "show" ]) keys
      in
      let kind, body =
        if known then asked operation document (value "mode") (value "show" <> "nothing") else ("unsupported", "")
      in
      Printf.fprintf replies "%s %d id=%s\n%s" kind (String.length body) (value "id") body;
      flush replies
    done
  with End_of_file -> ()
