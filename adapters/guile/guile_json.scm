;; guile-json: objects as association lists, arrays as vectors. What leaves in-library is the library's; what is thrown elsewhere is a fault
;; of this adapter.
(use-modules (json) (rnrs bytevectors) (ice-9 binary-ports) (ice-9 textual-ports) (ice-9 match) (srfi srfi-1))

(define replies (let ((port (duplicate-port (current-output-port) "wb"))) (setvbuf port 'block) port))
(define requests (current-input-port))
(dup2 2 1)
(set-port-encoding! requests "ISO-8859-1")

(define (hex bytes)
  (string-concatenate
   (map (lambda (byte) (string-append (if (< byte 16) "0" "") (number->string byte 16))) (bytevector->u8-list bytes))))
(define (field text) (string-append "u8:" (hex (string->utf8 text))))

(define (scalar value)
  (cond ((eq? value 'null) "null")
        ((eq? value #t) "true")
        ((eq? value #f) "false")
        ((string? value) (string-append "str " (field value)))
        ((and (number? value) (exact? value) (integer? value)) (string-append "int " (number->string value)))
        ((and (number? value) (real? value))
         (let ((bits (make-bytevector 8)))
           (bytevector-ieee-double-set! bits 0 (exact->inexact value) (endianness big))
           (string-append "binary64 " (hex bits))))
        (else "native other -")))

;; A list of what is still to be printed takes the place of recursion.
(define (walk root line)
  (let loop ((todo (list (cons 'value root))))
    (match todo
      (() #t)
      ((('line . text) . rest) (line text) (loop rest))
      ((('value . value) . rest)
       (cond ((vector? value)
              (line "[")
              (loop (append (map (lambda (v) (cons 'value v)) (vector->list value)) (cons '(line . "]") rest))))
             ((or (null? value) (pair? value))
              (line "{")
              (loop (append (append-map (lambda (m) (list (cons 'line (string-append "key " (field (car m)))) (cons 'value (cdr m))))
                                        value)
                            (cons '(line . "}") rest))))
             (else (line (scalar value)) (loop rest)))))))

(define (reply kind body id)
  (put-bytevector replies (string->utf8 (string-append kind " " (number->string (bytevector-length body)) " id=" id "\n")))
  (put-bytevector replies body)
  (force-output replies))

(define (message key args)
  (call-with-output-string (lambda (port) (write key port) (write-char #\space port) (write args port))))

(define (in-library thunk)
  (catch #t thunk
    (lambda (key . args)
      (throw 'library
             (cond ((memq key '(json-invalid decoding-error)) "rejected")
                   ((memq key '(stack-overflow out-of-memory)) "exhausted")
                   (else "threw"))
             (message key args)))))

(define (parsed document)
  (call-with-input-string (utf8->string document)
    (lambda (port)
      (let ((value (json->scm port #:concatenated #f)))
        value))))

(define (answer operation document show)
  (let ((value (in-library (lambda () (parsed document)))))
    (if (string=? operation "round-trip")
        (string->utf8 (in-library (lambda () (scm->json-string value))))
        (call-with-values open-bytevector-output-port
          (lambda (port bytes)
            (when show (walk value (lambda (text) (put-bytevector port (string->utf8 text)) (put-u8 port 10))))
            (bytes))))))

(put-bytevector replies (string->utf8 "nachklang-adapter 1\nimplementation guile-json 4.7.3\njson decode round-trip\nsetting input=text\n\n"))
(force-output replies)
(let loop ()
  (let ((head (get-line requests)))
    (unless (eof-object? head)
      (let* ((words (string-split head #\space))
             (count (string->number (third words)))
             (document (if (= count 0) (make-bytevector 0) (get-bytevector-n requests count)))
             (keys (map (lambda (word) (string-split word #\=)) (drop words 3)))
             (known (and (member (first words) '("decode" "round-trip")) (string=? (second words) "json")
                         (every (lambda (k) (member (car k) '("id" "mode" "show"))) keys)))
             (id (cadr (or (assoc "id" keys) '("id" "0"))))
             (show (not (equal? (assoc "show" keys) '("show" "nothing")))))
        (if known
            (catch #t
              (lambda () (let ((body (answer (first words) document show))) (reply "accepted" body id)))
              (lambda (key . args)
                (if (eq? key 'library)
                    (reply (first args) (string->utf8 (second args)) id)
                    (reply "adapter-fault" (string->utf8 (message key args)) id))))
            (reply "unsupported" (make-bytevector 0) id))
        (loop)))))
