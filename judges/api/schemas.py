"""Judges JSON Schemas of forms by jsonschema, the reference implementation in Python, beside ajv in the tests.

Arguments are a folder's files: NAME.schema.json, NAME.answers.json (which it must take), NAME.wrong.json (a list that it must
refuse, one by one). The last line counts.
"""

import json
import pathlib
import sys

import jsonschema

passed = failed = 0


def judged(ok, name, said):
    global passed, failed
    if ok:
        passed += 1
    else:
        failed += 1
        print(f"{name}: {said}")


for file in sorted(pathlib.Path(sys.argv[1]).glob("*.schema.json")):
    name = file.name.removesuffix(".schema.json")
    schema = json.loads(file.read_text("utf-8"))
    try:
        jsonschema.Draft202012Validator.check_schema(schema)
        judged(True, name, "")
    except jsonschema.SchemaError as e:
        judged(False, name, f"the schema is not valid 2020-12: {e.message}")
        continue
    validator = jsonschema.Draft202012Validator(schema, format_checker=jsonschema.FormatChecker())
    for answers in sorted(file.parent.glob(name + ".answers*.json")):
        errors = [f"{'/'.join(map(str, e.path))}: {e.message}" for e in validator.iter_errors(json.loads(answers.read_text("utf-8")))]
        judged(not errors, answers.name, "refused: " + "; ".join(errors[:3]))
    for i, wrong in enumerate(json.loads((file.parent / (name + ".wrong.json")).read_text("utf-8"))):
        judged(not validator.is_valid(wrong), name, f"wrong answers are taken: {json.dumps(wrong)[:200]}")

print(f"{passed} passed, {failed} failed")
sys.exit(1 if failed else 0)
