"""Reads a 3MF with the 3MF Consortium's library (lib3mf, PyPI) in strict mode and prints what it saw as JSON."""

import json
import sys

import lib3mf

model = lib3mf.Wrapper().CreateModel()
reader = model.QueryReader("3mf")
reader.SetStrictModeActive(True)
reader.ReadFromFile(sys.argv[1])
warnings = [reader.GetWarning(i)[1] for i in range(reader.GetWarningCount())]

materials = []
groups = model.GetBaseMaterialGroups()
while groups.MoveNext():
    group = groups.GetCurrentBaseMaterialGroup()
    for key in group.GetAllPropertyIDs():
        colour = group.GetDisplayColor(key)
        materials.append([group.GetName(key), [colour.Red, colour.Green, colour.Blue]])

meshes = []
objects = model.GetMeshObjects()
while objects.MoveNext():
    mesh = objects.GetCurrentMeshObject()
    points = [vertex.Coordinates[:] for vertex in mesh.GetVertices()]
    volume = 0.0
    for triangle in mesh.GetTriangleIndices():
        a, b, c = (points[i] for i in triangle.Indices[:])
        volume += a[0] * (b[1] * c[2] - b[2] * c[1])
        volume += a[1] * (b[2] * c[0] - b[0] * c[2])
        volume += a[2] * (b[0] * c[1] - b[1] * c[0])
    meshes.append(
        {
            "name": mesh.GetName(),
            "triangles": mesh.GetTriangleCount(),
            "volume": volume / 6.0,
            "closed": mesh.IsManifoldAndOriented(),
            "valid": mesh.IsValid(),
        }
    )

items = model.GetBuildItems()
count = 0
while items.MoveNext():
    count += 1

components = 0
with_components = model.GetComponentsObjects()
while with_components.MoveNext():
    components += with_components.GetCurrentComponentsObject().GetComponentCount()

titles = {}
group = model.GetMetaDataGroup()
for i in range(group.GetMetaDataCount()):
    entry = group.GetMetaData(i)
    titles[entry.GetName()] = entry.GetValue()

print(
    json.dumps(
        {
            "warnings": warnings,
            "materials": materials,
            "meshes": meshes,
            "items": count,
            "components": components,
            "metadata": titles,
            "thumbnail": model.HasPackageThumbnailAttachment(),
            "unit": int(model.GetUnit()),
        }
    )
)
