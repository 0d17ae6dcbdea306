"""The workspace's glossary: entries, what corrections suggest, files, applying it."""

from __future__ import annotations

from fastapi import Request, Response
from pydantic import BaseModel, Field

from mortiser.api import schemas
from mortiser.api.attachments import attachment
from mortiser.api.bodies import in_time, small_body
from mortiser.api.context import OpenContext
from mortiser.api.importing_routes import OfPiece
from mortiser.api.routing import routes
from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Id, Name
from mortiser.core.transcript.glossary import Entry
from mortiser.formats import glossary as files
from mortiser.formats.decoding import decode
from mortiser.store import glossary
from mortiser.wiring import AppContext

router = routes("/api", "glossary")
MOST_REFUSED = 20


class EntryBody(BaseModel):
    written: Name
    heard: list[Name] = Field(default=[], max_length=40)


class EntryView(BaseModel):
    id: int
    written: str
    heard: list[str]

    @classmethod
    def of(cls, entry: Entry) -> EntryView:
        return cls(id=entry.id, written=entry.written, heard=list(entry.heard))


class CorrectionBody(BaseModel):
    heard: str = Field(max_length=400)
    written: str = Field(max_length=400)


class OfferView(CorrectionBody):
    times: int = Field(description="How often it was corrected by hand.")
    elsewhere: int = Field(description="In how many places of the project the same was heard.")


class GlossaryView(BaseModel):
    entries: list[EntryView]
    offers: list[OfferView]


class GlossaryRead(BaseModel):
    taken: int
    refused: list[str]


class GlossaryApplied(BaseModel):
    changes: int
    answer: schemas.EditAnswer | None


@router.get("/glossary")
def read_glossary(context: OpenContext, project_id: Id | None = None) -> GlossaryView:
    """All entries, and corrections that could become one: those made again, and those of a project whose
    words were heard in other places of it too."""
    entries = glossary.entries(context.database.connection)
    return GlossaryView(
        entries=[EntryView.of(entry) for entry in entries],
        offers=[
            OfferView(
                heard=offer.heard,
                written=offer.written,
                times=offer.times,
                elsewhere=offer.elsewhere,
            )
            for offer in context.glossary.offers(project_id)
        ],
    )


@router.post("/glossary", status_code=201)
def add_entry(entry: EntryBody, context: OpenContext) -> EntryView:
    """Add an entry, or forms to the entry that is written the same."""
    made = glossary.add(context.database, Entry(entry.written, tuple(entry.heard)))
    return EntryView.of(made)


@router.put("/glossary/{entry_id}")
def change_entry(entry_id: Id, entry: EntryBody, context: OpenContext) -> EntryView:
    """Give an entry other contents."""
    made = glossary.change(context.database, Entry(entry.written, tuple(entry.heard), entry_id))
    return EntryView.of(made)


@router.delete("/glossary/{entry_id}", status_code=204)
def remove_entry(entry_id: Id, context: OpenContext) -> None:
    """Take an entry out; words that it changed stay as they are."""
    glossary.remove(context.database, entry_id)


@router.post("/glossary/declined", status_code=204)
def decline_offer(offer: CorrectionBody, context: OpenContext) -> None:
    """Do not offer this correction any more."""
    glossary.decline(context.database, offer.heard, offer.written)


@router.get("/glossary.csv", response_class=Response)
def glossary_file(context: OpenContext) -> Response:
    """The glossary as a CSV file."""
    return Response(
        files.write(glossary.entries(context.database.connection)),
        media_type="text/csv; charset=utf-8",
        headers=attachment("glossary.csv"),
    )


@router.post(
    "/glossary.csv",
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {}}}},
)
async def read_glossary_file(request: Request, context: OpenContext) -> GlossaryRead:
    """Take in the entries of a CSV file; lines that cannot be used are named, the others are taken."""
    data = await small_body(request)
    return await in_time(lambda: _taken_in(data, context))


def _taken_in(data: bytes, context: AppContext) -> GlossaryRead:
    text, _ = decode(data)
    good: list[Entry] = []
    refused: list[str] = []
    for line, entry in files.read(text):
        try:
            good.append(glossary.checked(entry))
        except BadInput as error:
            refused.append(f"Line {line}: {error}")
    if not good and not refused:
        raise BadInput("That file has no entries: a line for each, the written form first.")
    glossary.add_all(context.database, good)
    return GlossaryRead(taken=len(good), refused=refused[:MOST_REFUSED])


@router.post("/projects/{project_id}/glossary")
def apply_glossary(
    project_id: Id, request: schemas.StepRequest, context: OpenContext, piece_id: OfPiece = None
) -> GlossaryApplied:
    """Write the captions that are there as the glossary says, as one edit."""
    count, outcome = context.glossary.apply(project_id, request.base_revision, piece_id)
    return GlossaryApplied(
        changes=count, answer=schemas.EditAnswer.of(outcome) if outcome else None
    )
