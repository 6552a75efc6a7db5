# cpack -G DEB in the build folder makes three packages: libarvek0, arvek and libarvek-dev.
set(CPACK_GENERATOR DEB)
set(CPACK_PACKAGE_NAME arvek)
set(CPACK_PACKAGE_VENDOR Arvek)
set(CPACK_PACKAGE_CONTACT "Arvek <arvek@localhost>")
set(CPACK_PACKAGE_DESCRIPTION_SUMMARY ${PROJECT_DESCRIPTION})
set(CPACK_PACKAGING_INSTALL_PREFIX /usr)
set(CPACK_STRIP_FILES ON)
set(CPACK_DEB_COMPONENT_INSTALL ON)
set(CPACK_COMPONENTS_ALL library tool development)
set(CPACK_COMPONENTS_GROUPING IGNORE)
set(CPACK_DEBIAN_FILE_NAME DEB-DEFAULT)
set(CPACK_DEBIAN_PACKAGE_SHLIBDEPS ON)
set(CPACK_DEBIAN_PACKAGE_SECTION games)

set(CPACK_DEBIAN_LIBRARY_PACKAGE_NAME libarvek${PROJECT_VERSION_MAJOR})
set(CPACK_DEBIAN_LIBRARY_PACKAGE_SECTION libs)
set(CPACK_COMPONENT_LIBRARY_DESCRIPTION "The functions of arvek/arvek.h, for other languages")

set(CPACK_DEBIAN_TOOL_PACKAGE_NAME arvek)
set(CPACK_DEBIAN_TOOL_PACKAGE_RECOMMENDS "graphviz, gnuplot-nox")
set(CPACK_COMPONENT_TOOL_DESCRIPTION "The program with the demonstration games, and its guided tour")

set(CPACK_DEBIAN_DEVELOPMENT_PACKAGE_NAME libarvek-dev)
set(CPACK_DEBIAN_DEVELOPMENT_PACKAGE_SECTION libdevel)
set(CPACK_DEBIAN_DEVELOPMENT_PACKAGE_SHLIBDEPS OFF)
set(CPACK_DEBIAN_DEVELOPMENT_PACKAGE_DEPENDS
    "libarvek${PROJECT_VERSION_MAJOR} (= ${PROJECT_VERSION}), libfmt-dev, libedit-dev, libcpp-httplib-dev")
set(CPACK_DEBIAN_DEVELOPMENT_PACKAGE_RECOMMENDS "g++, cmake, arvek")
set(CPACK_COMPONENT_DEVELOPMENT_DESCRIPTION "Headers and libraries to build games and opponents with")

# Where the system says whose libraries are whose.
find_program(ARVEK_DPKG_SHLIBDEPS dpkg-shlibdeps)
if(NOT ARVEK_DPKG_SHLIBDEPS)
  set(CPACK_DEBIAN_PACKAGE_SHLIBDEPS OFF)
endif()
include(CPack)
