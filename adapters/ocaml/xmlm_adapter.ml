(* Xmlm: its signals. Comments and instructions are never shown; a second root would be the next document. *)

open Nachklang_adapter

let declares (uri, _) = uri = Xmlm.ns_xmlns

let start out ((uri, local), attributes) =
  Buffer.add_string out (Printf.sprintf "elem - %s %s\n" (field local) (field uri));
  List.iter
    (fun (((_, local) as name), value) ->
      if declares name then
        Buffer.add_string out (Printf.sprintf "ns %s %s\n" (field (if local = "xmlns" then "" else local)) (field value))
      else
        Buffer.add_string out (Printf.sprintf "attr - %s %s %s -\n" (field local) (field (fst name)) (field value)))
    attributes

let decode document =
  let input = Xmlm.make_input ~strip:false (`String (0, document)) in
  let out = Buffer.create 64 in
  let rec go depth =
    let deeper =
      match Xmlm.input input with
      | `Dtd _ -> depth
      | `El_start tag -> start out tag; depth + 1
      | `El_end -> Buffer.add_string out "end\n"; depth - 1
      | `Data text -> Buffer.add_string out (Printf.sprintf "text %s\n" (field text)); depth
    in
    let first_is_over = deeper = 0 && Buffer.length out > 0 in
    if not first_is_over then go deeper
  in
  go 0;
  if not (Xmlm.eoi input) then raise (Xmlm.Error (Xmlm.pos input, `Malformed_char_stream));
  Buffer.contents out

(* Xmlm reads one document after another from an input: the root of each, until one is refused. *)
let each_root input take =
  let rec content out depth =
    match Xmlm.input input with
    | `Dtd _ -> content out depth
    | `El_start tag -> start out tag; content out (depth + 1)
    | `El_end -> Buffer.add_string out "end\n"; if depth > 1 then content out (depth - 1)
    | `Data text -> Buffer.add_string out (Printf.sprintf "text %s\n" (field text)); content out depth
  in
  while not (Xmlm.eoi input) do
    let out = Buffer.create 64 in
    content out 0;
    take (Buffer.contents out)
  done

let documented = function
  | Xmlm.Error ((line, column), problem) ->
      Some (Xmlm.error_message problem, Printf.sprintf " line=%d column=%d unit=point" (max 1 line) (max 1 column))
  | _ -> None

(* Almost every line of decode calls the library. *)
let asked document _ wanted =
  let trace = library ~documented (fun () -> decode document) in
  ("accepted", (if wanted then trace else ""), "")

let listed source is_late _ wanted =
  let out = Buffer.create 64 in
  let put lines = if not (is_late ()) then Buffer.add_string out lines in
  (try library ~documented (fun () -> each_root (Xmlm.make_input ~strip:false source) put)
   with Library_failure ("rejected", _, _) -> put "native refused -\n");
  ("accepted", (if wanted then "[\n" ^ Buffer.contents out ^ "]\n" else ""), "")

let sequence document = listed (`String (0, document)) (fun () -> false)

(* A stream that stays open behind the text: what is handed over after it was asked for more comes late. *)
let open_stream document =
  let given = ref 0 and asked_for_more = ref false in
  let next () =
    if !given = String.length document then (asked_for_more := true; raise End_of_file);
    incr given;
    Char.code document.[!given - 1]
  in
  listed (`Fun next) (fun () -> !asked_for_more)

let () =
  serve ~format:"xml" ~hello:"implementation xmlm 1.4.0\nxml decode sequence open-stream\ncannot-represent comments instructions cdata doctype prefixes\nsetting namespaces=on\nsetting external=none\n"
    [ ("decode", asked); ("sequence", sequence); ("open-stream", open_stream) ]
