(* Xmlm: its signals. Comments and instructions are never shown; a second root would be the next document. *)

let replies = Unix.out_channel_of_descr (Unix.dup Unix.stdout)
let () = Unix.dup2 Unix.stderr Unix.stdout

let field text =
  let out = Buffer.create (3 + (2 * String.length text)) in
  Buffer.add_string out "u8:";
  String.iter (fun c -> Buffer.add_string out (Printf.sprintf "%02x" (Char.code c))) text;
  Buffer.contents out

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

let asked document wanted =
  try
    let told = decode document in
    ("accepted", (if wanted then told else ""), "")
  with
  | Xmlm.Error ((line, column), problem) ->
      ("rejected", Xmlm.error_message problem, Printf.sprintf " line=%d column=%d unit=point" (max 1 line) (max 1 column))
  | Stack_overflow -> ("exhausted", "the stack is too small", "")
  | Out_of_memory -> ("exhausted", "no memory", "")
  | problem -> ("threw", Printexc.to_string problem, "")

let () =
  set_binary_mode_in stdin true;
  set_binary_mode_out replies true;
  output_string replies
    "nachklang-adapter 1\nimplementation xmlm 1.4.0\nxml decode\nlacks comments instructions cdata doctype prefixes\nsetting namespaces=on\nsetting external=none\n\n";
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
      let known = format = "xml" && operation = "decode" && List.for_all (fun (key, _) -> List.mem key [ "id"; "mode"; "show" ]) keys in
      let kind, body, place = if known then asked document (value "show" <> "nothing") else ("unsupported", "", "") in
      Printf.fprintf replies "%s %d id=%s%s\n%s" kind (String.length body) (value "id") place body;
      flush replies
    done
  with End_of_file -> ()
