"""The built front end: its files as they were compressed when they were built; every other address is a page of it."""

from pathlib import Path

from fastapi import FastAPI, Request, Response
from fastapi.responses import FileResponse, JSONResponse

from lumbek.api.errors import ErrorBody

WEB = Path(__file__).resolve().parents[2] / "web" / "dist"
# What a browser may ask for, the smallest first, and how the file beside the plain one ends.
_ENCODINGS = (("br", ".br"), ("gzip", ".gz"))


def serve_web(app: FastAPI, folder: Path = WEB) -> None:
    """Serve the front end from the folder it was built to; nothing where it has not been built."""
    if not (folder / "index.html").is_file():
        return
    # Only what was built is ever opened: an address from outside is looked up, not followed.
    built = {str(path.relative_to(folder)): path for path in folder.rglob("*") if path.is_file()}

    @app.api_route("/{path:path}", methods=["GET", "HEAD"], include_in_schema=False)
    def page(path: str, request: Request) -> Response:
        if path.startswith("api/"):
            return _nothing_here() if request.method == "GET" else _only_whole()
        if path in built and not path.endswith((".br", ".gz", "index.html")):
            return _file(path, request)
        if path.startswith("assets/"):
            # A file of an earlier build: the page that asks for it must not be taken for it.
            return _nothing_here()
        answer = _file("index.html", request)
        answer.headers["Cache-Control"] = "no-cache"
        return answer

    def _file(name: str, request: Request) -> FileResponse:
        wanted = {each.split(";")[0].strip() for each in request.headers.get("accept-encoding", "").split(",")}
        for encoding, ending in _ENCODINGS:
            smaller = built.get(name + ending)
            if smaller is not None and encoding in wanted:
                headers = {"Content-Encoding": encoding, "Vary": "Accept-Encoding"}
                return FileResponse(smaller, headers=headers, media_type=_media_type(name))
        return FileResponse(built[name])


def _media_type(name: str) -> str:
    kinds = {".js": "text/javascript", ".css": "text/css", ".html": "text/html", ".svg": "image/svg+xml"}
    return kinds[Path(name).suffix]


def _only_whole() -> JSONResponse:
    """Return that the API answers whole or not at all: of an address there only its head is not given."""
    body = ErrorBody(code="not-allowed", message="That cannot be done here.")
    return JSONResponse(body.model_dump(), status_code=405, headers={"Allow": "GET"})


def _nothing_here() -> JSONResponse:
    body = ErrorBody(code="not-found", message="There is nothing at this address.")
    return JSONResponse(body.model_dump(), status_code=404)
