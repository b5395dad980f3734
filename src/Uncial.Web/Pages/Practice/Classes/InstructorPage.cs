using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Uncial.Data.Practice;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>A page of who instructs classes. Whether somebody does is asked of the database with the session.</summary>
[Authorize]
public abstract class InstructorPage(ClassDesk classes, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    protected ClassDesk Classes => classes;

    /// <summary>The person who instructs.</summary>
    protected int Instructor { get; private set; }

    /// <summary>Null where who asks instructs; otherwise where to go instead.</summary>
    protected async Task<IActionResult?> LetInAsync(CancellationToken cancel)
    {
        if (await classes.InstructorAsync(Reader.SessionToken, cancel) is not { } instructor)
            return Redirect("/practice");
        Instructor = instructor;
        ViewData["Band"] = Words.Say("practice.band");
        ViewData["Learner"] = Reader.Name;
        ViewData["Topic"] = "practice";
        return null;
    }

    protected void Head(string title)
    {
        ViewData["Title"] = Words.Say("practice.title", title);
        ViewData["Name"] = title;
    }

    protected void Tell(ClassRefusal refusal) => Trouble = Words.Say("classRefusal." + refusal);
}
