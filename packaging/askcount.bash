# Completion of the askcount command: its verbs and their options, as its own help names them.
_askcount() {
  local current=${COMP_WORDS[COMP_CWORD]} word verbs=()
  for word in "${COMP_WORDS[@]:1:COMP_CWORD-1}"; do
    [[ $word == -* ]] && break
    [[ $word == [a-z]* && ! -e $word && ${#verbs[@]} -lt 2 ]] && verbs+=("$word")
  done
  local help
  help=$(askcount "${verbs[@]}" --help 2>/dev/null) || help=$(askcount "${verbs[0]:-}" --help 2>/dev/null)
  if [[ $current == -* ]]; then
    mapfile -t COMPREPLY < <(compgen -W "$(grep -oE -- '--[a-z][a-z-]*' <<<"$help" | sort -u)" -- "$current")
    return
  fi
  # The verbs below the one that was typed, then files.
  local below
  below=$(sed -n '/^Subcommands:/,$p' <<<"$help" | sed -n 's/^  \([a-z][a-z-]*\) .*/\1/p')
  mapfile -t COMPREPLY < <(compgen -W "$below" -- "$current"; ((${#verbs[@]})) && compgen -f -- "$current")
}
complete -o filenames -F _askcount askcount
