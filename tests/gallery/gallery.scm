;; Defects of Guile's libraries, each shown by a call without any kit: a line for each, its name and what the library does.
(use-modules (json))
(display "guile-json-control\t")
(write (scm->json-string (string #\x1)))
(newline)
