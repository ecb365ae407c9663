"""All tables of XML cases; xml_external.py adds those about external access."""

import xml_text_tables as of_text
import xml_type_tables as of_types


def sheets():
    return [
        of_text.characters(),
        of_text.names(),
        of_text.markup(),
        of_text.prolog(),
        of_text.white_space(),
        of_types.entities(),
        of_types.declarations(),
        of_types.attributes(),
        of_types.encodings(),
        of_types.namespaces(),
        of_types.numbers(),
        of_types.values(),
    ]
