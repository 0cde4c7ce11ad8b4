# Files of one folder are compiled together, some ten at a time: what their headers hold is read, and what their templates
# make is generated, once for all of them. A batch never crosses a folder, so that names need only differ within a room.
#
#   punchbit_batches(target)   after all of the target's sources are known, from the CMakeLists.txt that names them
#
# -DPUNCHBIT_BATCHES=OFF compiles each file by itself, as the stand-alone check does.
option(PUNCHBIT_BATCHES "Compile the files of a folder together" ON)
set(PUNCHBIT_BATCH 10 CACHE STRING "Most files of one batch")
mark_as_advanced(PUNCHBIT_BATCH)

function(punchbit_batches target)
  if(NOT PUNCHBIT_BATCHES)
    return()
  endif()
  get_target_property(sources ${target} SOURCES)
  list(FILTER sources INCLUDE REGEX "\\.cpp$")
  list(SORT sources)
  set(folders "")
  foreach(source IN LISTS sources)
    get_filename_component(folder "${source}" DIRECTORY)
    string(MAKE_C_IDENTIFIER "in_${folder}" folder)
    list(APPEND folders ${folder})
    list(APPEND of_${folder} "${source}")
  endforeach()
  list(REMOVE_DUPLICATES folders)
  foreach(folder IN LISTS folders)
    list(LENGTH of_${folder} files)
    # As many batches as it takes, all of about one size.
    math(EXPR batches "(${files} + ${PUNCHBIT_BATCH} - 1) / ${PUNCHBIT_BATCH}")
    set(at 0)
    foreach(source IN LISTS of_${folder})
      math(EXPR batch "${at} * ${batches} / ${files}")
      set_source_files_properties("${source}" PROPERTIES UNITY_GROUP "${folder}_${batch}")
      math(EXPR at "${at} + 1")
    endforeach()
  endforeach()
  set_target_properties(${target} PROPERTIES UNITY_BUILD ON UNITY_BUILD_MODE GROUP)
endfunction()
