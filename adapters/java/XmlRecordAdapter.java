/** An adapter of a library that decodes XML into records: its types are nested in a class Records of the adapter, with the library's annotations. */
abstract class XmlRecordAdapter extends NachklangAdapter {
    /** "one-int32" is the type OneInt32. */
    @Override protected Class<?> recordType(String name) {
        StringBuilder type = new StringBuilder(getClass().getName()).append("$Records$");
        for (String word : name.split("-")) type.append(Character.toUpperCase(word.charAt(0))).append(word.substring(1));
        try {
            return Class.forName(type.toString());
        } catch (ClassNotFoundException error) {
            return null;
        }
    }

    @Override protected String format() {
        return "xml";
    }

    @Override protected String hello() {
        return "xml bind bind-round-trip bind-encode\n";
    }

    @Override protected Object load(byte[] document, String mode) throws Unsupported {
        throw new Unsupported("records only");
    }

    @Override protected Inside inside(Object value) {
        return null;
    }
}
