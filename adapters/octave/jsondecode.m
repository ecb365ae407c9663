% Octave's jsondecode and jsonencode. Arrays become matrices, null and empty arrays are alike: what they were, only round trips tell.
1;
function reply(kind, body, id)
  global replies;
  fwrite(replies, sprintf("%s %d id=%s\n", kind, numel(body), id));
  fwrite(replies, body);
  fflush(replies);
end
global replies;
replies = fopen("/proc/self/fd/1", "w");
dup2(stderr, stdout);
fwrite(replies, sprintf("nachklang-adapter 1\nimplementation octave-json %s\nengine rapidjson\njson round-trip\n\n", OCTAVE_VERSION));
fflush(replies);
while (ischar(head = fgetl(stdin)))
  words = strsplit(head, " ");
  count = str2double(words{3});
  document = "";
  if (count > 0) document = fread(stdin, count, "uint8=>char")'; end
  id = "0"; known = strcmp(words{1}, "round-trip") && strcmp(words{2}, "json");
  for i = 4:numel(words)
    parts = strsplit(words{i}, "=");
    switch (parts{1})
      case "id" id = parts{2};
      case {"show", "mode"}
      otherwise known = false;
    end
  end
  if (! known)
    reply("unsupported", "", id);
    continue;
  end
  try
    body = jsonencode(jsondecode(document, "makeValidName", false));
    reply("accepted", body, id);
  catch problem
    reply("rejected", problem.message, id);
  end
end
