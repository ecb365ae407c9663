"""A sheet of cases as it is written to a file of the corpus."""

import os
import tomllib

CORPORA = os.path.join(os.path.dirname(os.path.abspath(__file__)), "..", "..", "corpora")


def plain(document):
    return all(0x20 <= c < 0x7F and c != 0x27 for c in document)


def u8(text):
    return "u8:" + (text if isinstance(text, bytes) else text.encode("utf-8", "surrogatepass")).hex()


def written_by_hand(form):
    """Documents that a sheet written by hand holds already, and names that are taken."""
    documents, names = set(), set()
    folder = os.path.join(CORPORA, form)
    for name in os.listdir(folder):
        if not name.endswith(".toml") or name.endswith("-generated.toml"):
            continue
        with open(os.path.join(folder, name), "rb") as file:
            sheet = tomllib.load(file)
            for case in sheet["case"]:
                names.add((sheet["sheet"]["aspect"], case["id"]))
                if "text" in case:
                    documents.add(case["text"].encode("utf-8"))
                elif "hex" in case:
                    documents.add(bytes.fromhex(case["hex"]))
    return documents, names


# Of questions about records the answer of one that holds what the document says.
KEPT = {"record-range": "kept", "record-whole-number": "accepted", "record-unknown": "ignored", "record-map-earlier": "replaced", "record-number-spelling": "read", "record-boolean-spelling": "read",
        "record-white-space": "kept", "record-aside": "read", "record-element-order": "any", "record-document-type": "read"}
KEPT_LISTS = {"json": "replaced", "xml": "all"}


class Sheet:
    written = {}

    def __init__(self, form, standard, aspect, about, name=None):
        """The file of a sheet has the name of its aspect, or another if an aspect has several."""
        self.form, self.standard, self.aspect, self.about = form, standard, aspect.removesuffix("-generated"), about
        self.name = name or self.aspect
        if form not in Sheet.written:
            Sheet.written[form] = written_by_hand(form)
        self.rows, self.documents, self.questions = [], set(Sheet.written[form][0]), []
        self.files = {}
        self.of_sequences = False  # whether each document is several documents, one after another
        self.stays_open = False  # whether the stream of such a text does not end with it
        self.ids = {name for of, name in Sheet.written[form][1] if self.aspect == of}

    @property
    def path(self):
        return os.path.join(CORPORA, self.form, self.name + "-generated.toml")

    def file(self, name, content):
        """A file that documents name outside themselves, in a folder of the sheet's own."""
        path = os.path.join(self.aspect, name)
        self.files[os.path.join(CORPORA, self.form, path)] = content.encode("utf-8") if isinstance(content, str) else content
        return path

    def add(self, name, document, stance, clause, why, trace=None, question=None, answers=None, outside=None, record=None):
        """A case of a document (bytes or text), or of a value to be encoded (the lines of its trace); outside: the file that the
        document names, and whether the case is for processors that read it ("external") or for those that do not ("none"); record: the record
        type that the document is decoded into."""
        document = document.encode("utf-8") if isinstance(document, str) else document
        document = tuple(document) if isinstance(document, list) else document
        apart = outside or record or ("sequence" if self.of_sequences else None)
        key = (document, apart) if apart else document
        if key in self.documents:
            return
        self.documents.add(key)
        base, count = name, 2
        while name in self.ids:
            name, count = "%s-%d" % (base, count), count + 1
        self.ids.add(name)
        kept = KEPT_LISTS[self.form] if question == "record-list" else KEPT.get(question)
        if record and trace and answers is not None and kept and kept not in dict(answers):
            answers = [(kept, "{ trace = '''\n%s\n''' }" % "\n".join(trace))] + answers
        self.rows.append((name, document, stance, clause, why, trace, question, answers, outside, record))

    def accept(self, name, document, clause, why, trace):
        self.add(name, document, "accept", clause, why, trace)

    def reject(self, name, document, clause, why, question=None):
        self.add(name, document, "reject", clause, why, question=question)

    def open(self, name, document, question, clause, why, trace=None):
        self.add(name, document, "open", clause, why, trace, question)

    def breaks_validity(self, *names):
        """These documents break a validity constraint. That is an error, which a processor may report and recover from (XML 1.0, 1.2)."""
        if not any(question[0] == "validity-error" for question in self.questions):
            self.questions.append(("validity-error", "1.2", ["refused", "accepted"], "altered", "an error that a processor may report and recover from"))
        missing = set(names) - {row[0] for row in self.rows}
        if missing:
            raise ValueError("no such cases: %s" % ", ".join(sorted(missing)))
        for i, (name, document, _, _, why, trace, _, _, outside, record) in enumerate(self.rows):
            if name in names:
                accepted = [("accepted", "{ trace = '''\n%s\n''' }" % "\n".join(trace))]
                self.rows[i] = (name, document, "open", "1.2", why, trace, "validity-error", accepted, outside, record)

    def text(self):
        out = ["# %s Written by scripts/generate-sheets: change that, not this." % self.about, "[sheet]",
               'format   = "%s"' % self.form, 'aspect   = "%s"' % self.aspect, 'standard = "%s"' % self.standard, ""]
        for question, clause, answers, unlisted, about in self.questions:
            out += ["", "[[question]]", 'id       = "%s"' % question, 'clause   = "%s"' % clause,
                    "answers  = [%s]" % ", ".join('"%s"' % answer for answer in answers), 'unlisted = "%s"' % unlisted,
                    'about    = "%s"' % about]
        for name, document, stance, clause, why, trace, question, answers, outside, record in self.rows:
            out += ["", "[[case]]", 'id       = "%s"' % name]
            if isinstance(document, tuple):
                out.append("value    = '''\n%s\n'''" % "\n".join(document))
            else:
                out.append(("text     = '%s'" % document.decode("ascii")) if plain(document) else 'hex      = "%s"' % document.hex())
            if outside:
                out += ['external_file = "%s"' % outside[0], 'reads    = "%s"' % outside[1]]
            if record:
                out.append('record   = "%s"' % record)
            if self.of_sequences:
                out.append("sequence = true")
            if self.stays_open:
                out.append("stays_open = true")
            out.append('stance   = "%s"' % stance)
            if question:
                out.append('question = "%s"' % question)
            if answers:
                out.append("answers  = { %s }" % ", ".join("%s = %s" % pair for pair in answers))
            if trace:
                out.append(("trace    = '%s'" % trace[0]) if len(trace) == 1 else "trace    = '''\n%s\n'''" % "\n".join(trace))
            out += ['clause   = "%s"' % clause, ('why      = "%s"' if "'" in why else "why      = '%s'") % why]
        return "\n".join(out) + "\n"
