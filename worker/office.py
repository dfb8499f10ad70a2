"""Drives one LibreOffice that stays warm, for the caged reading of office papers.

Reads a line of JSON from standard input for each file: {"filter": NAME, "output": "pages" | "workbook" | "word"}. The file is
`content` in the current folder; what is made is `made` beside it. Answers a line: {"end": "done" | "protected" | "damaged"}.
It has no network and sees no folder but this one; whoever started it kills it where it takes too long.
"""

import json
import os
import subprocess
import sys
import time

import uno
import unohelper
from com.sun.star.beans import PropertyValue
from com.sun.star.connection import NoConnectException
from com.sun.star.lang import DisposedException
from com.sun.star.task import XInteractionHandler

FOLDER = os.getcwd()
# The most pages that are laid out of a workbook, whose sheets can come to a hundred thousand.
SHEET_PAGES = "1-300"
# By what a document supports: the filter that writes its pages.
PAGE_FILTERS = (
    ("com.sun.star.sheet.SpreadsheetDocument", "calc_pdf_Export"),
    ("com.sun.star.presentation.PresentationDocument", "impress_pdf_Export"),
    ("com.sun.star.drawing.DrawingDocument", "draw_pdf_Export"),
    ("com.sun.star.text.WebDocument", "writer_web_pdf_Export"),
    ("com.sun.star.text.TextDocument", "writer_pdf_Export"),
)


def properties(**values):
    return tuple(PropertyValue(Name=name, Value=value) for name, value in values.items())


class Asked(unohelper.Base, XInteractionHandler):
    """Notes what the program asks, and answers nothing: a question means that the file does not open by itself."""

    def __init__(self):
        self.password = False

    def handle(self, request):
        if "Password" in request.getRequest().__class__.__name__:
            self.password = True
        for continuation in request.getContinuations():
            if "Abort" in str(continuation):
                continuation.select()
                return


def start():
    pipe = "embrin%d" % os.getpid()
    subprocess.Popen(
        [
            "soffice", "--headless", "--invisible", "--norestore", "--nologo", "--nodefault", "--nolockcheck",
            "-env:UserInstallation=file://%s/.profile" % FOLDER, "--accept=pipe,name=%s;urp;" % pipe,
        ],
        stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
    )
    local = uno.getComponentContext()
    resolver = local.ServiceManager.createInstanceWithContext("com.sun.star.bridge.UnoUrlResolver", local)
    for _ in range(600):
        try:
            context = resolver.resolve("uno:pipe,name=%s;urp;StarOffice.ComponentContext" % pipe)
            return context.ServiceManager.createInstanceWithContext("com.sun.star.frame.Desktop", context)
        except NoConnectException:
            time.sleep(0.05)
    raise SystemExit(1)


def convert(desktop, task):
    asked = Asked()
    loading = properties(
        Hidden=True, ReadOnly=True, FilterName=task["filter"], InteractionHandler=asked,
        MacroExecutionMode=0, UpdateDocMode=0, Silent=False,
    )
    try:
        document = desktop.loadComponentFromURL("file://%s/content" % FOLDER, "_blank", 0, loading)
    except DisposedException:
        # The program has ended under this file: no answer tells that better than an end of this one.
        raise SystemExit(1)
    except Exception:
        document = None
    if document is None:
        return "protected" if asked.password else "damaged"
    try:
        made = "file://%s/made" % FOLDER
        if task["output"] == "word":
            document.storeToURL(made, properties(FilterName="MS Word 2007 XML"))
        elif task["output"] == "workbook":
            document.storeToURL(made, properties(FilterName="Calc MS Excel 2007 XML"))
        else:
            kinds = [(kind, each) for kind, each in PAGE_FILTERS if document.supportsService(kind)]
            if not kinds:
                return "damaged"
            options = {"ExportBookmarks": True, "ExportNotes": False, "UseLosslessCompression": False, "Quality": 85}
            if kinds[0][1] == "calc_pdf_Export":
                options["PageRange"] = SHEET_PAGES
            data = uno.Any("[]com.sun.star.beans.PropertyValue", properties(**options))
            document.storeToURL(made, properties(FilterName=kinds[0][1], FilterData=data))
        # It can end without a word and without a file.
        return "done" if os.path.exists(os.path.join(FOLDER, "made")) else "damaged"
    finally:
        document.close(True)


def main():
    desktop = start()
    for line in sys.stdin:
        print(json.dumps({"end": convert(desktop, json.loads(line))}), flush=True)


main()
