using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.ModelBinding;
using Microsoft.AspNetCore.Mvc.ModelBinding.Validation;

namespace Uncial.Web.Forms;

/// <summary>A length as it was typed in a field. A page reads it in the unit of the field (see <see cref="FormPage"/>).</summary>
/// <param name="Field">Name of the field; empty for one that was not sent by a form.</param>
/// <param name="Text">What was typed; may be empty.</param>
[ModelBinder(typeof(LengthInputBinder))]
[ValidateNever]
public sealed record LengthInput(string Field, string Text)
{
    /// <summary>What a field is to show that nobody has typed in yet.</summary>
    public static implicit operator LengthInput?(string? text) => text is null ? null : new("", text);

    /// <summary>As typed.</summary>
    public override string ToString() => Text;
}

/// <summary>Binds a field with its name, so that what is wrong with it can be said there.</summary>
internal sealed class LengthInputBinder : IModelBinder
{
    public Task BindModelAsync(ModelBindingContext bindingContext)
    {
        ArgumentNullException.ThrowIfNull(bindingContext);
        var name = bindingContext.ModelName;
        var sent = bindingContext.ValueProvider.GetValue(name);
        if (sent != ValueProviderResult.None)
        {
            bindingContext.ModelState.SetModelValue(name, sent);
            bindingContext.Result = ModelBindingResult.Success(new LengthInput(name, sent.FirstValue ?? ""));
        }
        return Task.CompletedTask;
    }
}
