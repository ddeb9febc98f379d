"""Signing in, where the app answers beyond this machine: every coach sees their own; card links need no sign-in."""

from __future__ import annotations

from functools import cache
from typing import Annotated

import anyio.to_thread
from fastapi import APIRouter, Cookie, Request, Response
from pwdlib import PasswordHash
from pydantic import Field
from starlette.datastructures import Headers
from starlette.requests import cookie_parser
from starlette.types import ASGIApp, Receive, Scope, Send

from oddswap.api.guesses import GUESSES, WrongPasswordError, asker
from oddswap.api.problems import problem
from oddswap.api.requests import Asked, shown
from oddswap.api.routing import StoreRoute
from oddswap.api.views import View
from oddswap.documents.problems import Problem
from oddswap.store import acting
from oddswap.store.opening import connected

router = APIRouter(prefix="/api", route_class=StoreRoute, tags=["signing in"])
COOKIE = "odd-swap-sign-in"
OPEN = ("/api/health", "/api/sign-in", "/api/card", "/api/card/entries")
"""What is answered without a sign-in: each asks for its own secret, or tells nothing."""
OF_THE_MACHINE = ("/api/backup", "/api/restore", "/api/demo")
"""What concerns all coaches' data: done on the machine itself."""
HASHES = PasswordHash.recommended()
"""Argon2id with the library's recommended cost."""
LEAST_PASSWORD = 10


class SignInRequest(Asked):
    """Who signs in."""

    model_config = shown({"name": "Wren Adair", "password": "a long made-up one"})

    name: str = Field(max_length=80)
    password: str = Field(max_length=200)


class SignInView(View):
    """Who is signed in."""

    needed: bool
    """Whether coaches have to sign in."""
    name: str = ""
    """Of the coach who is; empty for nobody."""


REFUSED: dict[int | str, dict[str, object]] = {
    401: {"model": Problem, "description": "Name or password is wrong"},
    429: {"model": Problem, "description": "Too many wrong tries"},
}


@router.get("/sign-in")
def who_is_signed_in(request: Request, secret: Annotated[str, Cookie(alias=COOKIE)] = "") -> SignInView:
    """Whether coaches have to sign in here, and who is."""
    coach = acting.signed_in(secret)
    name = next((c.name for c in acting.coaches() if c.id == coach), "")
    return SignInView(needed=request.app.state.sign_in, name=name if request.app.state.sign_in else "")


@cache
def hash_of_nobody() -> str:
    """What a password is held against where the name is not there; made at the first sign-in, whoever's it is."""
    return HASHES.hash("a password of nobody")


@router.post("/sign-in", responses=REFUSED)
def sign_in(body: SignInRequest, request: Request, response: Response) -> SignInView:
    """Sign in with name and password; who guesses is slowed."""
    who, nobody = asker(request), hash_of_nobody()
    GUESSES.check(who)
    found = next((c for c in acting.coaches() if c.name.casefold() == body.name.strip().casefold() and c.password), None)
    # A name that is not there takes as long as a wrong password.
    right = HASHES.verify(body.password, found.password if found and found.password else nobody)
    if found is None or not right:
        GUESSES.failed(who)
        raise WrongPasswordError
    secure = request.url.scheme == "https"
    secret = acting.sign_in(found.id)
    age = int(acting.LASTS.total_seconds())
    response.set_cookie(COOKIE, secret, max_age=age, httponly=True, samesite="strict", secure=secure, path="/api")
    return SignInView(needed=request.app.state.sign_in, name=found.name)


@router.post("/sign-out")
def sign_out(
    request: Request, response: Response, everywhere: bool = False, secret: Annotated[str, Cookie(alias=COOKIE)] = ""
) -> SignInView:
    """End this sign-in, or all of this coach's."""
    coach = acting.signed_in(secret)
    if coach is not None:
        acting.sign_out(coach, "" if everywhere else secret)
    response.delete_cookie(COOKIE, path="/api")
    return SignInView(needed=request.app.state.sign_in)


class SignedIn:
    """Middleware: whoever asks for a coach's data acts for that coach, and for nobody else's.

    Args:
        app: What is guarded.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass on what is open or signed in."""
        path = scope.get("path", "")
        if scope["type"] != "http" or not path.startswith("/api") or path in OPEN or path == "/api/sign-out":
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        secret = cookie_parser(headers.get("cookie", "")).get(COOKIE, "")
        coach = await anyio.to_thread.run_sync(_coach, secret)
        if coach is None:
            refused = problem(401, "Sign in first", "This address is for coaches who sign in")
        elif path.startswith(OF_THE_MACHINE):
            refused = problem(403, "Only on the machine itself", "It concerns all coaches: use the command line there")
        elif scope["method"] not in ("GET", "HEAD") and not _same_page(headers):
            refused = problem(403, "Asked from another site", "Only the app's own pages may write")
        else:
            with acting.acting_for(coach):
                await self.app(scope, receive, send)
            return
        await refused(scope, receive, send)


def _coach(secret: str) -> int | None:
    with connected():
        return acting.signed_in(secret)


def _same_page(headers: Headers) -> bool:
    """Whether a browser says that a page of this app asks; where it says nothing of it, nothing is believed."""
    site, origin = headers.get("sec-fetch-site"), headers.get("origin")
    return site == "same-origin" or (origin is not None and origin.split("//")[-1] == headers.get("host"))
