namespace Uncial.Core.Practice;

/// <summary>A rule of the book that can be left out.</summary>
public enum BookRule
{
    /// <summary>None: all hold.</summary>
    None,

    /// <summary>Lands lower than those that were read count.</summary>
    Relief,

    /// <summary>Grooves and relief may be deeper than they were read.</summary>
    DepthUncertainty,

    /// <summary>Both of these: a release by grooves as read, and nothing else that was not read.</summary>
    WhatLiesLower,

    /// <summary>Something is allowed for the places between the readings.</summary>
    Allowance,

    /// <summary>All of the uncertainty is kept from the limit, not half of it.</summary>
    HalfTheUncertainty,

    /// <summary>The bound allows for the error of a setting.</summary>
    DialAllowance,

    /// <summary>The bound looks at places where one side is still dark.</summary>
    DarkPlaces,
}
