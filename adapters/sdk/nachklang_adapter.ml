(* The adapter kit for OCaml: serve ~format ~hello operations, each of which takes document, mode and whether a trace is wanted, and gives kind, bytes and
   place (docs/protocol.md). Call your library inside library ~documented: `documented` gives message and place of the exceptions that it documents,
   others are `threw`. An exception raised anywhere else is a fault of the adapter (`adapter-fault`) and never booked on the library. *)

exception Library_failure of string * string * string

let library ?(documented = fun _ -> None) call =
  try call () with
  | Library_failure _ as failure -> raise failure
  | Stack_overflow -> raise (Library_failure ("exhausted", "the stack is too small", ""))
  | Out_of_memory -> raise (Library_failure ("exhausted", "no memory", ""))
  | problem -> (
      match documented problem with
      | Some (message, place) -> raise (Library_failure ("rejected", message, place))
      | None -> raise (Library_failure ("threw", Printexc.to_string problem, "")))

let replies = Unix.out_channel_of_descr (Unix.dup Unix.stdout)
let () = Unix.dup2 Unix.stderr Unix.stdout

let field text =
  let out = Buffer.create (3 + (2 * String.length text)) in
  Buffer.add_string out "u8:";
  String.iter (fun c -> Buffer.add_string out (Printf.sprintf "%02x" (Char.code c))) text;
  Buffer.contents out

let pair word =
  let at = String.index word '=' in
  (String.sub word 0 at, String.sub word (at + 1) (String.length word - at - 1))

let guarded answer document mode wanted =
  try answer document mode wanted with
  | Library_failure (kind, message, place) -> (kind, message, place)
  | problem -> ("adapter-fault", Printexc.to_string problem, "")

let serve ~format ~hello operations =
  set_binary_mode_in stdin true;
  set_binary_mode_out replies true;
  output_string replies ("nachklang-adapter 1\n" ^ hello ^ "\n");
  flush replies;
  try
    while true do
      let words = String.split_on_char ' ' (input_line stdin) in
      let document = really_input_string stdin (int_of_string (List.nth words 2)) in
      let keys = List.map pair (List.filteri (fun i _ -> i > 2) words) in
      let value key = try List.assoc key keys with Not_found -> "" in
      let known = List.nth words 1 = format && List.for_all (fun (key, _) -> List.mem key [ "id"; "mode"; "show" ]) keys in
      let kind, body, place =
        match List.assoc_opt (List.nth words 0) operations with
        | Some answer when known -> guarded answer document (value "mode") (value "show" <> "nothing")
        | _ -> ("unsupported", "", "")
      in
      Printf.fprintf replies "%s %d id=%s%s\n%s" kind (String.length body) (value "id") place body;
      flush replies
    done
  with End_of_file -> ()
