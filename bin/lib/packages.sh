# Sourced by the commands: installs the npm packages when the lock file has changed since the last time.
need_node() {
  if ! command -v node >/dev/null 2>&1 || ! command -v npm >/dev/null 2>&1; then
    echo "Node.js 20 or newer with npm is needed and was not found." >&2
    exit 1
  fi
}

need_packages() {
  need_node
  # Two commands at once must not install over each other.
  mkdir -p .data
  exec 9>.data/install.lock
  flock 9
  if [ ! -f node_modules/.dialtune-lock ] || ! cmp -s package-lock.json node_modules/.dialtune-lock; then
    echo "Installing the npm packages ..." >&2
    npm ci --no-audit --no-fund --loglevel=error >&2 || exit 1
    cp package-lock.json node_modules/.dialtune-lock
  fi
  exec 9>&-
}

# need_programs PACKAGE:PROGRAM ... : installs Debian packages whose program (or file) is missing.
need_programs() {
  missing=""
  for pair in "$@"; do
    package=${pair%%:*}
    program=${pair#*:}
    case "$program" in
      /*) [ -e "$program" ] || missing="$missing $package" ;;
      *) command -v "$program" >/dev/null 2>&1 || [ -x "/usr/sbin/$program" ] || missing="$missing $package" ;;
    esac
  done
  [ -n "$missing" ] || return 0
  if [ "$(id -u)" != 0 ]; then
    echo "These Debian packages are missing. Please run once:" >&2
    echo "  sudo apt-get install -y --no-install-recommends$missing" >&2
    exit 1
  fi
  echo "Installing from Debian:$missing ..." >&2
  export DEBIAN_FRONTEND=noninteractive
  # Another copy may be installing: wait for it.
  apt-get -o DPkg::Lock::Timeout=300 update -qq >&2 || true
  # shellcheck disable=SC2086
  apt-get -o DPkg::Lock::Timeout=300 install -y -qq --no-install-recommends $missing >&2
}

# need_voices: recorded voices from Debian, and what a recogniser needs to hear them.
need_voices() {
  voices=""
  for package in pocketsphinx-en-us pocketsphinx-testdata alsa-utils asterisk-prompt-it-menardi-wav \
    asterisk-core-sounds-en-wav asterisk-core-sounds-es-wav asterisk-core-sounds-fr-wav asterisk-core-sounds-ru-wav; do
    voices="$voices $package:/var/lib/dpkg/info/$package.list"
  done
  # shellcheck disable=SC2086
  need_programs $voices
}
