"""The command line: serve, demo, caption (and worker, which the server starts by itself)."""

from __future__ import annotations

import argparse
import json
import logging
import os
import sys
import time
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from pydantic import ValidationError

from mortiser import __version__
from mortiser.core.captions.pace import PACES
from mortiser.core.common.errors import MortiserError, NoSpace, foreseen
from mortiser.core.project.text_forms import TEXT_FORMS
from mortiser.core.style.finish.builtin import DEFAULT_FINISH, FINISHES
from mortiser.jobs.worker import end_with_input, hold_alone
from mortiser.settings import Settings
from mortiser.speech.memory import share_heaps

if TYPE_CHECKING:
    from mortiser.core.transcript.glossary import Entry
    from mortiser.speech.engines import Engines

BEHIND = 5
LOOK_S = 1.0
"""How often a watched folder is looked at."""
BETWEEN_LOOKS = 1
FULL_S = 30.0
SECRET = ("pass_phrase",)
OPTIONS = ("workspace", "host", "port")
SERVICE = "MORTISER_LIBRARY_SERVICE"
OUTPUTS = (*TEXT_FORMS, "burn")


def main(arguments: Sequence[str] | None = None) -> int:
    """Run a command; returns the exit code: 0 done, 1 failed, 2 wrong use, 130 interrupted."""
    share_heaps()
    parser = _parser()
    options = parser.parse_args(arguments)
    if getattr(options, "with_input", False):
        end_with_input()
    logging.basicConfig(level=logging.WARNING, format="%(levelname)s %(name)s: %(message)s")
    try:
        return int(options.run(options, parser))
    except ValidationError as error:
        print(f"mortiser: {_wrong_setting(error)}", file=sys.stderr)
        return 2
    except MortiserError as error:
        print(f"mortiser: {error}", file=sys.stderr)
        return 1
    except OSError as error:
        print(f"mortiser: {foreseen(error) or error}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        print("mortiser: interrupted", file=sys.stderr)
        return 130


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="mortiser", description="Speech to timed, animated captions, burned in or as files."
    )
    parser.add_argument("--version", action="version", version=f"mortiser {__version__}")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    for name, about, run in (
        ("serve", "start the application", _serve),
        ("demo", "start it on a workspace with sample recordings", _demo),
        ("worker", "do queued work (started by serve)", _worker),
    ):
        command = commands.add_parser(name, help=about, description=about)
        command.add_argument("--workspace", type=Path, help="folder for everything that is kept")
        if name != "worker":
            command.add_argument("--host", help="address to listen on (127.0.0.1)")
            command.add_argument("--port", help="port to listen on (8747)")
        else:
            command.add_argument(
                "--with-input", action="store_true", help="end when the standard input closes"
            )
        command.set_defaults(run=run)
    caption = commands.add_parser(
        "caption",
        help="caption one recording without the application",
        description="Transcribe INPUT and write what is asked for. Existing files are replaced.",
    )
    caption.add_argument("input", metavar="INPUT", type=Path)
    caption.add_argument("--finish", default=DEFAULT_FINISH, choices=FINISHES, help="caption look")
    caption.add_argument("--group", default="quick", choices=PACES, help="caption size")
    _add_hearing(caption)
    caption.add_argument(
        "--tighten",
        nargs="*",
        metavar="WHAT",
        help="take out quiet (quiet=0.3 for what is longer, in seconds), fillers, repeats; all if none "
        "is named",
    )
    for ending in OUTPUTS:
        what = "video with the captions burned in" if ending == "burn" else f"captions as {ending}"
        caption.add_argument(f"--{ending}", metavar="F", type=Path, help=f"write the {what}")
    caption.add_argument("--jig", metavar="J", help="make it by a jig: its name, or its file")
    caption.add_argument(
        "--preset", action="append", default=[], metavar="NAME", help="deliver a set of files"
    )
    caption.add_argument("--out", metavar="FOLDER", type=Path, help="where delivered files go")
    caption.add_argument("--workspace", type=Path, help="whose jigs and sets are known too")
    _add_progress(caption)
    caption.set_defaults(run=_caption)
    delivered = commands.add_parser(
        "deliver",
        help="make the files of projects",
        description="Make the files of projects as the application would, and print their paths. "
        "PROJECT is a name or a number; - reads them from the standard input, one a line.",
    )
    delivered.add_argument("projects", metavar="PROJECT", nargs="+")
    delivered.add_argument("--workspace", type=Path, help="folder for everything that is kept")
    delivered.add_argument("--piece", metavar="P", help="one piece alone: its name or number")
    delivered.add_argument(
        "--shape", action="append", default=[], metavar="S", help="tall, square, wide … alone"
    )
    delivered.add_argument(
        "--preset", action="append", default=[], metavar="NAME", help="a set of files, by its name"
    )
    delivered.add_argument(
        "--out", metavar="FOLDER", type=Path, default=Path(), help="where they go (here)"
    )
    delivered.add_argument("--quiet", action="store_true", help="no progress bars")
    _add_progress(delivered)
    delivered.set_defaults(run=_deliver)
    watch = commands.add_parser(
        "watch",
        help="caption and deliver whatever is put into a folder",
        description="Caption each recording that is put into IN by a jig and put its files into a "
        "folder of its own in OUT. A file that is still being copied waits; one that fails is set aside "
        "with the reason; the others go to IN/done.",
    )
    watch.add_argument("input", metavar="IN", type=Path)
    watch.add_argument("out", metavar="OUT", type=Path)
    watch.add_argument("--jig", metavar="J", required=True, help="its name, or its file")
    watch.add_argument(
        "--preset", action="append", default=[], metavar="NAME", help="a set of files, by its name"
    )
    watch.add_argument("--workspace", type=Path, help="whose jigs and sets are known too")
    watch.add_argument("--once", action="store_true", help="end when nothing is left to do")
    _add_hearing(watch)
    watch.set_defaults(run=_watch)
    convert = commands.add_parser(
        "convert",
        help="turn a caption file into another format",
        description="Read captions from IN and write them to OUT, by its ending. - is the standard "
        "input or output. What cannot be kept is told.",
    )
    convert.add_argument("input", metavar="IN")
    convert.add_argument("output", metavar="OUT")
    convert.add_argument("--to", metavar="FORMAT", help="the format, where OUT does not say")
    convert.add_argument("--timed", action="store_true", help="with the times of words")
    convert.set_defaults(run=_convert)
    hear = commands.add_parser(
        "hear",
        help="print the words of one recording, or what is wrong with them",
        description="Print when each word of INPUT starts and ends (s) and the word; with "
        "--compare, what differs from a text that is known, and how much.",
    )
    hear.add_argument("input", metavar="INPUT", type=Path)
    _add_hearing(hear)
    hear.add_argument(
        "--compare", metavar="REFERENCE", type=Path, help="a text, or words as caption --json has"
    )
    hear.set_defaults(run=_hear)
    return parser


def _add_progress(command: argparse.ArgumentParser) -> None:
    command.add_argument(
        "--progress",
        choices=("bar", "json"),
        default="bar",
        help="how progress is told: on the standard error, or as lines of JSON with the results",
    )


def _add_hearing(command: argparse.ArgumentParser) -> None:
    command.add_argument(
        "--language",
        default="en",
        help="code of the language spoken (en); auto to find it out, mul where there are several",
    )
    command.add_argument("--engine", help="name of one engine, which then hears alone")
    command.add_argument(
        "--glossary", metavar="FILE", type=Path, help="CSV of names, as the application saves it"
    )
    command.add_argument("--quiet", action="store_true", help="no progress bar")


def _settings(options: argparse.Namespace, **defaults: object) -> Settings:
    named = {key: getattr(options, key, None) for key in OPTIONS}
    return Settings(**{**defaults, **{k: v for k, v in named.items() if v is not None}})


def _wrong_setting(error: ValidationError) -> str:
    """What is wrong with a setting, and where it can be set."""
    first = error.errors()[0]
    name = str(first["loc"][0]) if first["loc"] else ""
    where = f"MORTISER_{name.upper()}"
    if name in OPTIONS:
        where = f"--{name} or {where}"
    given = "" if name in SECRET else f" “{first['input']}”"
    return f"{name}{given}: {first['msg']}. Set it with {where}."


def _serve(options: argparse.Namespace, parser: argparse.ArgumentParser) -> int:
    from mortiser.services.serving import serve

    return serve(_settings(options))


def _demo(options: argparse.Namespace, parser: argparse.ArgumentParser) -> int:
    from mortiser.demo.workspace import make_demo
    from mortiser.services.serving import serve
    from mortiser.standins.shelf import ShelfServer

    if not os.environ.get(SERVICE):
        # Workers read it too.
        os.environ[SERVICE] = ShelfServer().address
    return serve(_settings(options, workspace=Path("demo-workspace")), make_demo)


def _worker(options: argparse.Namespace, parser: argparse.ArgumentParser) -> int:
    os.umask(0o077)
    # Listening takes all cores: the page and its video go before it.
    os.nice(BEHIND)
    settings = _settings(options)
    # Waiting comes before opening: the database may still be another worker's to change.
    hold_alone(settings.workspace / "worker.lock")
    from mortiser.wiring import open_context

    open_context(settings).queue.work()
    # Threads in the middle of work are not waited for: what they did is given back.
    sys.stderr.flush()
    os._exit(0)


def _caption(options: argparse.Namespace, parser: argparse.ArgumentParser) -> int:
    outputs = {name: getattr(options, name) for name in OUTPUTS if getattr(options, name)}
    if not outputs and not options.out:
        parser.error("nothing to write: name at least one of --srt --vtt --txt --json --burn --out")
    if (options.preset or options.jig) and not outputs and not options.out:
        parser.error("name with --out the folder that files go to")
    if not options.input.is_file():
        print(f"mortiser: {options.input}: no such file", file=sys.stderr)
        return 1
    # Mistakes are told before what takes seconds to load.
    from mortiser.core.editing.removals import tightening
    from mortiser.services.captioning import caption, names_of
    from mortiser.services.delivering import jig_and_outputs

    names = names_of(options.glossary) if options.glossary else []
    asked = options.tighten
    tighten = None if asked is None else tightening(asked, options.language)
    jig, sets = jig_and_outputs(options.jig, options.preset, options.workspace)
    made = caption(
        options.input,
        outputs,
        options.finish,
        options.group,
        quiet=options.quiet,
        engines=_engines(options, names),
        names=names,
        tighten=tighten,
        jig=jig,
        folder=options.out,
        delivered=sets,
        tell=_told if options.progress == "json" else None,
    )
    if options.progress == "json":
        for path in made:
            _say_made(path)
    return 0


def _told(what: str, done: float) -> None:
    """A step on the way, as a line of JSON."""
    print(json.dumps({"doing": what, "progress": round(done, 4)}), flush=True)


def _say_made(path: Path) -> None:
    print(json.dumps({"made": str(path), "size": path.stat().st_size}), flush=True)


def _deliver(options: argparse.Namespace, parser: argparse.ArgumentParser) -> int:
    from mortiser.services.captioning import bars
    from mortiser.services.delivering import deliver

    names = [
        name
        for given in options.projects
        for name in ([line.strip() for line in sys.stdin] if given == "-" else [given])
        if name
    ]
    as_json = options.progress == "json"
    for path in deliver(
        _settings(options),
        names,
        options.out,
        _told if as_json else bars(options.quiet),
        piece=options.piece,
        shapes=options.shape,
        sets=options.preset,
    ):
        if as_json:
            _say_made(path)
        else:
            print(path, flush=True)
    return 0


def _watch(options: argparse.Namespace, parser: argparse.ArgumentParser) -> int:
    from mortiser.services.captioning import caption, names_of
    from mortiser.services.delivering import jig_and_outputs
    from mortiser.services.watching import Watch

    names = names_of(options.glossary) if options.glossary else []
    jig, sets = jig_and_outputs(options.jig, options.preset, options.workspace)

    def make(recording: Path, folder: Path) -> Sequence[Path]:
        return caption(
            recording,
            {},
            DEFAULT_FINISH,
            "quick",
            quiet=options.quiet,
            engines=_engines(options, names, recording),
            names=names,
            jig=jig,
            folder=folder,
            delivered=sets,
        )

    watch = Watch(options.input, options.out, make)
    idle = 0
    while not (options.once and idle > BETWEEN_LOOKS):
        try:
            outcomes = watch.look()
        except NoSpace as error:
            # What is there stays, and is dealt with once there is room.
            print(f"mortiser: {error}", file=sys.stderr, flush=True)
            time.sleep(FULL_S)
            continue
        for one in outcomes:
            print(one.made or f"{one.recording.name} was set aside: {one.reason}", flush=True)
        waits = any(file.is_file() for file in options.input.iterdir())
        idle = 0 if outcomes or waits else idle + 1
        time.sleep(LOOK_S)
    return 0


def _convert(options: argparse.Namespace, parser: argparse.ArgumentParser) -> int:
    from mortiser.services.converting import convert

    to = options.to or Path(options.output).suffix.removeprefix(".").lower()
    if not to:
        parser.error("name the format with --to")
    if options.input == "-":
        data = sys.stdin.buffer.read()
    elif Path(options.input).is_file():
        data = Path(options.input).read_bytes()
    else:
        print(f"mortiser: {options.input}: no such file", file=sys.stderr)
        return 1
    text, notes = convert(data, to, timed=options.timed)
    for note in notes:
        print(f"mortiser: {note}", file=sys.stderr)
    if options.output == "-":
        sys.stdout.buffer.write(text.encode())
    else:
        Path(options.output).write_text(text, encoding="utf-8", newline="")
    return 0


def _engines(
    options: argparse.Namespace, names: Sequence[Entry], recording: Path | None = None
) -> Engines:
    from mortiser.media.sound import stream_sound
    from mortiser.speech.engines import chosen, language_finder
    from mortiser.speech.languages import FIND_OUT, language_spoken
    from mortiser.wiring import model_place

    place = model_place(Settings())
    language = options.language
    if language == FIND_OUT:
        language = (
            language_spoken(stream_sound(recording or options.input), language_finder(place))
            or "en"
        )
    return chosen(language, place, options.engine, [entry.written for entry in names])


def _hear(options: argparse.Namespace, parser: argparse.ArgumentParser) -> int:
    from mortiser.media.probe import probe
    from mortiser.services.captioning import hear, names_of
    from mortiser.services.hearing import lines_of, read_reference, report

    reference = read_reference(options.compare) if options.compare else None
    if not options.input.is_file():
        print(f"mortiser: {options.input}: no such file", file=sys.stderr)
        return 1
    names = names_of(options.glossary) if options.glossary else []
    words = hear(
        options.input,
        probe(options.input).duration_us,
        _engines(options, names),
        names,
        quiet=options.quiet,
    )
    for line in report(words, reference) if reference else lines_of(words):
        print(line)
    return 0
