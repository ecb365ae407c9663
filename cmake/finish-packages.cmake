# Run by CPack between installing into its own folder and packing: what Debian's policy asks of a package, and a plain installation does
# not need.
file(GLOB components ${CPACK_TEMPORARY_DIRECTORY}/*)
find_program(STRIP_COMMAND strip REQUIRED)
find_program(GZIP_COMMAND gzip REQUIRED)
set(doc_of_tool nachklang)
set(doc_of_adapters nachklang-adapters)
set(doc_of_development libnachklang-dev)
foreach(component ${components})
  get_filename_component(name ${component} NAME)
  if(NOT DEFINED doc_of_${name})
    continue()
  endif()
  set(doc ${component}/usr/share/doc/${doc_of_${name}})
  file(MAKE_DIRECTORY ${doc})
  file(COPY_FILE ${CPACK_RESOURCE_FILE_LICENSE} ${doc}/copyright)
  file(WRITE ${doc}/changelog "nachklang (${CPACK_PACKAGE_VERSION}) unstable; urgency=medium

  * The changes are in CHANGELOG.md of the package nachklang.

 -- ${CPACK_PACKAGE_CONTACT}  Sun, 29 Nov 2026 00:00:00 +0000
")
  file(GLOB pages ${component}/usr/share/man/man*/*)
  execute_process(COMMAND ${GZIP_COMMAND} -9nf ${doc}/changelog ${pages} COMMAND_ERROR_IS_FATAL ANY)
  # Programs that other compilers made are installed as they are. Guile reads its own object files by their sections.
  file(GLOB programs ${component}/usr/libexec/nachklang/adapters/*)
  foreach(program ${programs})
    if(IS_DIRECTORY ${program} OR program MATCHES "[.](go|exe|jar)$")
      continue()
    endif()
    file(READ ${program} magic LIMIT 4 HEX)
    if(magic STREQUAL 7f454c46)
      execute_process(COMMAND ${STRIP_COMMAND} --strip-unneeded ${program} COMMAND_ERROR_IS_FATAL ANY)
    endif()
  endforeach()
endforeach()
if(EXISTS ${CPACK_TEMPORARY_DIRECTORY}/adapters)
  # Go links its programs statically; Guile's object files have an architecture of their own.
  file(WRITE ${CPACK_TEMPORARY_DIRECTORY}/adapters/usr/share/lintian/overrides/nachklang-adapters
    "nachklang-adapters: statically-linked-binary
nachklang-adapters: binary-from-other-architecture
nachklang-adapters: unstripped-binary-or-object *.go]
")
endif()
