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

let documented = function
  | Xmlm.Error ((line, column), problem) ->
      Some (Xmlm.error_message problem, Printf.sprintf " line=%d column=%d unit=point" (max 1 line) (max 1 column))
  | _ -> None

(* Almost every line of decode calls the library. *)
let asked document _ wanted =
  let trace = library ~documented (fun () -> decode document) in
  ("accepted", (if wanted then trace else ""), "")

let () =
  serve ~format:"xml" ~hello:"implementation xmlm 1.4.0\nxml decode\ncannot-represent comments instructions cdata doctype prefixes\nsetting namespaces=on\nsetting external=none\n"
    [ ("decode", asked) ]
