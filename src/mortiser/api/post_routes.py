"""What is written beside a video, proposed from what is said in it."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, Field

from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.core.common.limits import Id
from mortiser.core.project.post import Post, proposed
from mortiser.store import projects

router = routes("/api/pieces", "pieces")


class ProposalView(BaseModel):
    model_config = ConfigDict(from_attributes=True)

    post: Post
    reasons: list[str] = Field(description="For the title, the description and each tag.")


@router.get("/{piece_id}/post")
def propose_post(piece_id: Id, context: OpenContext) -> ProposalView:
    """A title, a description and tags of what is said in a piece."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id)
        cues = projects.piece_cues(db, piece_id)
        language = projects.read_source(db, piece.source_id).language
    return ProposalView.model_validate(proposed(cues, piece.settings.name, language))
