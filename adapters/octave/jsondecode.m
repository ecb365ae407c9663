% Octave's jsondecode and jsonencode. Arrays of numbers become matrices and names identifiers, so only the laps tell; the values
% of scalars and strings are shown.
1;
function out = field(text)
  out = ["u8:" sprintf("%02x", uint8(text))];
end
function out = shown(value)
  if (isempty(value) && isnumeric(value))
    out = "null";
  elseif (islogical(value) && isscalar(value))
    if (value) out = "true"; else out = "false"; end
  elseif (isnumeric(value) && isscalar(value))
    out = ["binary64 " num2hex(double(value))];
  elseif (ischar(value))
    out = ["str " field(value)];
  else
    error("unsupported: arrays become matrices, names become identifiers");
  end
end
function reply(kind, body, id)
  fwrite(stdout, sprintf("%s %d id=%s\n", kind, numel(body), id));
  fwrite(stdout, body);
  fflush(stdout);
end
fwrite(stdout, sprintf("nachklang-adapter 1\nimplementation octave-json %s\nengine rapidjson\njson decode lap\nlacks duplicates number-kind\n\n", OCTAVE_VERSION));
fflush(stdout);
while (ischar(head = fgetl(stdin)))
  words = strsplit(head, " ");
  count = str2double(words{3});
  document = "";
  if (count > 0) document = fread(stdin, count, "uint8=>char")'; end
  id = "0"; show = true; known = any(strcmp(words{1}, {"decode", "lap"})) && strcmp(words{2}, "json");
  for i = 4:numel(words)
    parts = strsplit(words{i}, "=");
    switch (parts{1})
      case "id" id = parts{2};
      case "show" show = ! strcmp(parts{2}, "nothing");
      case "mode"
      otherwise known = false;
    end
  end
  if (! known)
    reply("unsupported", "", id);
    continue;
  end
  try
    value = jsondecode(document, "makeValidName", false);
    body = "";
    if (strcmp(words{1}, "lap"))
      body = jsonencode(value);
    elseif (show)
      body = [shown(value) "\n"];
    end
    reply("accepted", body, id);
  catch problem
    if (strncmp(problem.message, "unsupported: ", 13))
      reply("unsupported", problem.message(14:end), id);
    else
      reply("rejected", problem.message, id);
    end
  end
end
