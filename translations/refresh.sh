#!/bin/sh
# Collects the texts of the source into ask-count.pot and brings every language up to it. New texts are left
# empty for the translator; what is gone from the source goes from the languages.
# With --check nothing is changed; it fails where the catalogue is not what the source says.
set -eu
cd "$(dirname "$0")"
new=$(mktemp)
trap 'rm -f "$new"' EXIT
(cd .. && find src/core src/link src/app -name '*.cpp' -o -name '*.h' | LC_ALL=C sort) |
  xgettext --directory=.. --files-from=- --language=C++ --from-code=UTF-8 --output="$new" \
    --keyword --keyword=say:1 --keyword=say_q:1 --keyword=meant:2 --keyword=to_say:1,1t \
    --keyword=to_say:1,2,2t --keyword=counted:2,3,3t --keyword=counted_q:2,3 \
    --add-location=file --package-name="Ask Count" --copyright-holder="The makers of Ask Count"
# Texts are filled by fmt and Qt; a per cent sign in them is one.
sed -i -e '/^#, c-format$/d' -e '/^"POT-Creation-Date/d' -e '/^# \(SOME\|FIRST\)/d' "$new"
if [ "${1:-}" = --check ]; then
  cmp -s "$new" ask-count.pot || { echo "translations/ask-count.pot is not what the source says: run translations/refresh.sh" >&2; exit 1; }
  exit 0
fi
cp "$new" ask-count.pot
for language in *.po; do
  [ -e "$language" ] || continue
  msgmerge --quiet --no-fuzzy-matching --no-wrap --update --backup=none "$language" ask-count.pot
  msgattrib --no-obsolete --no-wrap --output-file="$language" "$language"
  echo "$language: $(msgfmt --statistics --output-file=/dev/null "$language" 2>&1)"
done
