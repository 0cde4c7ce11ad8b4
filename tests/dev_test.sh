#!/usr/bin/env bash
# Every command of ./dev works after any other, in a tree that was interrupted or moved, and when packages come later.
#
# The real CMake and Ninja run, on a copy of the sources, as a person does who types one command after the other. What
# would take the time is stood in for: the compiler and the linker make empty files, packages are names in a list, and
# what was built says its name. So this tests what is configured, asked for and run, not what comes of it.
#
#   tests/dev_test.sh    takes a minute or two
set -euo pipefail
source=$(cd "$(dirname "$0")/.." && pwd)
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
mkdir -p "$work/tools" "$work/copy"
# What would be committed now: a checkout, or an export of one.
if git -C "$source" rev-parse --git-dir >/dev/null 2>&1; then
  (cd "$source" && git ls-files -co --exclude-standard -z | xargs -0 tar -cf - --ignore-failed-read 2>/dev/null) | tar -xf - -C "$work/copy"
else
  (cd "$source" && tar -cf - --exclude=./build .) | tar -xf - -C "$work/copy"
fi

tool() { cat > "$work/tools/$1" && chmod +x "$work/tools/$1"; }

# In place of the compiler and the linker: makes what it was asked for. Breaks off where $work/breaks is there.
tool stand-in <<TOOL
#!/usr/bin/env bash
[ -e "$work/breaks" ] && exit 1
while [ \$# -gt 0 ]; do case "\$1" in -o) out=\$2 ;; -MF) deps=\$2 ;; -MT) target=\$2 ;; esac; shift; done
printf '#!/bin/sh\necho "ran %s \$*" >> "$work/ran"\n' "\$(basename "\$out")" > "\$out"
chmod +x "\$out"
[ -z "\${deps:-}" ] || echo "\${target:-\$out}:" > "\$deps"
echo "\$out" >> "$work/made"
TOOL
tool ar <<'TOOL'
#!/bin/sh
for a in "$@"; do case "$a" in *.a) : > "$a" ;; esac; done
TOOL
# Packages that are there, by name; apt adds to them.
tool dpkg-query <<TOOL
#!/usr/bin/env bash
grep -qx -- "\${@: -1}" "$work/packages" && echo "install ok installed"
TOOL
tool apt-get <<TOOL
#!/usr/bin/env bash
for a in "\$@"; do case "\$a" in update | install | -*) ;; *) echo "\$a" >> "$work/packages" ;; esac; done
TOOL
tool sudo <<'TOOL'
#!/usr/bin/env bash
exec "$@"
TOOL
tool ctest <<TOOL
#!/usr/bin/env bash
echo "ran ctest \$*" >> "$work/ran"
TOOL
tool xvfb-run <<'TOOL'
#!/usr/bin/env bash
while [ $# -gt 0 ]; do case "$1" in -a) shift ;; -s) shift 2 ;; *) exec "$@" ;; esac; done
TOOL
# CMake itself, with the compiler stood in for.
real_cmake=$(command -v cmake)
tool cmake <<TOOL
#!/usr/bin/env bash
case "\$1" in
  --preset) exec "$real_cmake" "\$@" -DCMAKE_CXX_COMPILER_LAUNCHER="$work/tools/stand-in" -DCMAKE_CXX_LINKER_LAUNCHER="$work/tools/stand-in" -DCMAKE_AR="$work/tools/ar" -DCMAKE_RANLIB=/bin/true -DCCACHE=OFF ;;
  *) exec "$real_cmake" "\$@" ;;
esac
TOOL
export PATH="$work/tools:$PATH"
unset DISPLAY WAYLAND_DISPLAY CI
cd "$work/copy"

failed=0
# says WHAT EXPECTED-LINE: the last command ran it.
expect() {
  if ! grep -q -- "$2" "$work/ran"; then
    echo "FAILED: $1: expected “$2”; ran:"
    sed 's/^/    /' "$work/ran"
    tail -n 15 "$work/out" | sed 's/^/    | /'
    failed=1
  fi
}
# run NAME COMMAND...: from an empty record.
run() {
  : > "$work/ran"
  : > "$work/made"
  if ! "${@:2}" > "$work/out" 2>&1; then echo "(ended with an error)" >> "$work/ran"; fi
  if grep -q "ended with an error" "$work/ran"; then
    echo "FAILED: $1 ended with an error:"
    tail -n 15 "$work/out" | sed 's/^/    | /'
    failed=1
  else echo "ok: $1"; fi
}
fresh() { rm -rf build "$work/breaks"; : > "$work/packages"; }
demo_here() { env DISPLAY=:9 ./dev demo; }

fresh
run "demo without a display, on a machine without packages" ./dev demo
expect "demo without a display" "ran punch derive"
run "demo with a display after one without" demo_here
expect "demo with a display" "ran punchbit demo"
run "demo without a display after one with" ./dev demo
expect "demo again" "ran punch derive"
if [ -s "$work/made" ]; then
  echo "FAILED: the second demo without a display built again: $(head -n 3 "$work/made" | tr '\n' ' ')"
  failed=1
fi
run "test after demo" ./dev test
expect "test" "ran ctest"
if grep -q 'punchbit_loops.dir/Unity' "$work/made"; then
  echo "FAILED: test builds again what demo has built"
  failed=1
fi
run "benchmarks after test" ./dev bench
expect "bench" "ran punchbit_benchmarks"
run "demo after test" demo_here
expect "demo after test" "ran punchbit demo"

fresh
run "test first" ./dev test
run "demo after test" ./dev demo
expect "demo after test" "ran punch derive"

fresh
touch "$work/breaks"
: > "$work/ran"
demo_here > "$work/out" 2>&1 && { echo "FAILED: a build that breaks off is taken for a good one"; failed=1; }
rm "$work/breaks"
run "demo after a build that broke off" demo_here
expect "demo after a break" "ran punchbit demo"

# The configuration itself breaks off: a cache without what follows it.
rm -f build/release/build.ninja
run "demo after a configuration that broke off" demo_here
echo "CMAKE_GENERATOR:INTERNAL=Unix Makefiles" > build/release/CMakeCache.txt
echo "CMAKE_HOME_DIRECTORY:INTERNAL=$PWD" >> build/release/CMakeCache.txt
run "demo in a tree of another generator" demo_here
expect "demo in such a tree" "ran punchbit demo"

# A pull brings a new file, and a list that names it.
printf '// A file that came with a pull.\n' > core/base/pulled.cpp
sed -i 's#^  base/chain.cpp#  base/chain.cpp\n  base/pulled.cpp#' core/CMakeLists.txt
run "demo after a pull" demo_here
expect "demo after a pull" "ran punchbit demo"

# The whole folder goes elsewhere.
cd "$work" && mv copy moved && cd moved
run "demo in a folder that was moved" demo_here
expect "demo after a move" "ran punchbit demo"

[ "$failed" -eq 0 ] && echo "every order works"
exit "$failed"
