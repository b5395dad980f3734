using System.Diagnostics;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Uncial.Web.Pages;

/// <summary>What is shown when the application itself failed.</summary>
[AllowAnonymous, IgnoreAntiforgeryToken, ResponseCache(NoStore = true)]
public class ErrorModel : PageModel
{
    public string Number => Activity.Current?.TraceId.ToString() ?? HttpContext.TraceIdentifier;

    public void OnGet() { }

    public void OnPost() { }
}
