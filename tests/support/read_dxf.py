"""Prints what a DXF reader that nobody here wrote finds in a file: a line for each closed thing, in mm.

First its unit and the number of errors of its audit, then: layer, tab, kind, left, bottom, right, top.
"""
import sys

import ezdxf
from ezdxf import path

drawing = ezdxf.readfile(sys.argv[1])
print(drawing.header.get("$INSUNITS", 0), len(drawing.audit().errors))
for entity in drawing.modelspace().query("CIRCLE LWPOLYLINE"):
    if entity.dxftype() == "LWPOLYLINE" and not entity.closed:
        continue
    # Chords within a tenth of a micrometre of the arc.
    points = list(path.make_path(entity).flattening(1e-4))
    xs, ys = [p.x for p in points], [p.y for p in points]
    box = "\t".join(f"{v:.6f}" for v in (min(xs), min(ys), max(xs), max(ys)))
    print(f"{entity.dxf.layer}\t{entity.dxftype()}\t{box}")
