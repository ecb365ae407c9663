/* Reads a file with the reference reader and prints its verdict and its canonical form. */
#include <nachklang.h>

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

int main(int argc, char** argv) {
    const char* format = argc > 2 ? argv[2] : "json";
    FILE* file = argc > 1 ? fopen(argv[1], "rb") : NULL;
    if (file == NULL) {
        fprintf(stderr, "usage: read_document FILE [json|xml]\n");
        return 2;
    }
    static char text[1 << 20];
    const size_t length = fread(text, 1, sizeof text, file);
    fclose(file);

    nachklang_reading* reading = nachklang_read(format, text, length);
    if (reading == NULL) return 2;
    const int accepted = nachklang_verdict(reading) == NACHKLANG_ACCEPTED;
    if (!accepted)
        printf("line %zu column %zu: %s [%s]\n", nachklang_line(reading), nachklang_column(reading),
               nachklang_message(reading), nachklang_clause(reading));
    nachklang_free_reading(reading);

    char* canonical = accepted ? nachklang_canonical(format, text, length, NULL) : NULL;
    if (canonical != NULL) puts(canonical);
    nachklang_free(canonical);
    return accepted ? 0 : 1;
}
