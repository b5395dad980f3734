namespace Uncial.Core.Settings;

/// <summary>The address of a shop as it is typed: where its pages are found on the network.</summary>
public static class ShopAddressText
{
    /// <summary>Letters of an address at most.</summary>
    public const int Longest = 200;

    /// <summary>Reads an address: http or https, a host, and a port where it is not the usual one.</summary>
    /// <param name="text">What was typed, as <c>https://brakes.local:5443</c>; without a scheme it is https.</param>
    /// <returns>The address without a slash at its end; null where it is none, or holds a path, a name or a query.</returns>
    public static string? Read(string? text)
    {
        if (text?.Trim() is not { Length: > 0 and <= Longest } typed)
            return null;
        if (!typed.Contains("://", StringComparison.Ordinal))
            typed = "https://" + typed;
        return
            Uri.TryCreate(typed, UriKind.Absolute, out var uri)
            && (uri.Scheme == Uri.UriSchemeHttps || uri.Scheme == Uri.UriSchemeHttp)
            && uri is { UserInfo.Length: 0, AbsolutePath: "/", Query.Length: 0, Fragment.Length: 0, Host.Length: > 0 }
            && uri.HostNameType is not UriHostNameType.Basic
            && uri.AbsoluteUri.Length <= Longest
            ? uri.GetLeftPart(UriPartial.Authority)
            : null;
    }
}
